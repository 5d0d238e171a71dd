"""The records of a site. Key names are those of ``site.toml``."""

from typing import Annotated, Literal

from msgspec import Meta

from verse_tray.editors.record import Name, Record
from verse_tray.editors.sending import Sending

FORMAT = "verse-tray-site/1"

Pixels = Annotated[int, Meta(ge=1)]


class Slot(Record, frozen=True, kw_only=True):
    """A field for what belongs to the site, to a page or to a block, and stands elsewhere than the markup does."""

    title: Name
    """Name for people, such as ``Own styles of the site``."""
    takes: Literal["styles", "scripts", "markup"]
    """What is pasted into it: styles, scripts, or markup of any kind, with the elements around styles and scripts."""
    wraps: bool = False
    """Whether the site writes the style or script element itself: then the text alone is pasted."""
    at: Literal["before-everything", "head", "body-start", "block", "body-end"]
    """Where the page has it: before the doctype, at the end of the head, at the start or the end of the body, or right
    before the piece in its region (only slots of a region)."""
    where: Name
    """How an author gets there, such as ``Design → Own styles``."""
    editor: str | None = None
    """Editor of the field; None for one that keeps everything."""
    most: Pixels | None = None
    """Most characters that it takes, what stands there included; None for no limit."""
    stands: str = ""
    """What stands there already: new text goes below it."""


class Item(Record, frozen=True, kw_only=True):
    """Something that stands in a region already."""

    name: Name
    """Name by which an author knows it."""
    markup: str
    """Its markup, as the page has it."""


class Region(Record, frozen=True, kw_only=True):
    """A place of a page that markup goes into."""

    title: Name
    """Name for people."""
    editor: Name
    """Editor of its fields: a name, or a folder or file beside the site's."""
    width: Pixels
    """How wide it is on a desktop, in CSS pixels."""
    phone_width: Pixels | None = None
    """How wide it is on a phone, in CSS pixels; None where nobody says."""
    where: Name
    """How an author gets there."""
    one_field: bool = False
    """Whether all that stands in it is in one field, whose limits count all of it; else each item has its own."""
    around: str = "<!-- piece -->"
    """What the page puts around each item, with ``<!-- piece -->`` in the item's place."""
    twin: str | None = None
    """The region of the page that shows the same on the other kind of device: what is put into one of the two is
    missing in the other."""
    items: tuple[Item, ...] = ()
    """What stands in it already, in order."""
    slots: dict[str, Slot] = {}  # noqa: RUF012
    """Fields that each block in it has beside its markup, by name."""


class Page(Record, frozen=True, kw_only=True):
    """A page of the site, or a kind of page."""

    title: Name
    """Name for people."""
    page: str | None = None
    """File beside this one with the page: ``<!-- region: NAME -->`` marks each region's place, ``<!-- slot: NAME -->``
    a slot's where it is not the usual one, ``<!-- theme -->`` that of the theme. None for a plain page."""
    regions: dict[str, Region]
    """Its regions, by name, in the order in which they stand."""
    slots: dict[str, Slot] = {}  # noqa: RUF012
    """Its own slots, by name."""


class Holders(Record, frozen=True, kw_only=True):
    """A place where the site keeps raw code under names; a reference in a field stands for it."""

    title: Name
    """Name for people."""
    where: Name
    """How an author gets there."""
    reference: Name
    """What stands for a holder in a field, with ``{name}`` in the place of its name, such as ``[[{name}]]``."""
    editor: str | None = None
    """Editor of its field; None for one that keeps everything."""


class Site(Record, frozen=True, kw_only=True):
    """What an author pastes into."""

    format: Literal["verse-tray-site/1"]
    """Version of this format."""
    title: Name
    """Name for people."""
    summary: str
    """One sentence on what it is."""
    theme: str | None = None
    """File beside this one with its styles; every other ``.css`` file there is a further theme. None for none."""
    slots: dict[str, Slot] = {}  # noqa: RUF012
    """Slots of the whole site, by name."""
    sending: Sending | None = None
    """How pieces are sent to it; None where nothing is."""
    holders: Holders | None = None
    """Its holders; None where it has none."""
    pages: dict[str, Page]
    """Its pages, by name."""
