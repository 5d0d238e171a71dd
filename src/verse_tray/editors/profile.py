"""The records of a profile. Key names are those of ``editor.toml``.

Every default changes nothing: an empty profile describes an editor that keeps what it is given.
"""

from typing import Annotated, Any, Literal

from msgspec import Meta

from verse_tray.editors.filters import Filter
from verse_tray.editors.record import Name, NotNegative, Positive, Record

FORMAT = "verse-tray-editor/1"


class Paste(Filter, frozen=True, kw_only=True):
    """What the editor does when the author pastes."""

    pane: Literal["source", "visual-text", "visual-rich"] = "source"
    """The pane that takes the paste: the source pane changes nothing, the visual pane takes markup as plain text
    (readers see the tags) or as rich text (what a browser's own editing surface keeps)."""
    rich: tuple[Literal["styles", "elements", "code", "idle", "spaces", "ends"], ...] = (
        "styles", "elements", "code", "idle", "spaces", "ends",
    )  # fmt: skip
    """What a pane for rich text does to a paste: rules of style elements written into elements, elements that it takes
    none of, code gone, what says nothing unwrapped, single non-breaking spaces plain, white space at the ends gone."""
    lines: Literal["paragraphs", "divisions", "breaks"] = "paragraphs"
    """What each line of plain text becomes in the visual pane."""


class Save(Filter, frozen=True, kw_only=True):
    """What the editor does when the author saves."""


class Reopen(Filter, frozen=True, kw_only=True):
    """What the visual pane does when a stored piece is opened in it and saved again; all is written anew."""

    writes: Literal["as-typed", "tags-anew", "tokens-anew", "anew"] = "anew"
    """As for any stage; what opens a piece mostly writes all of it anew."""


class Publish(Filter, frozen=True, kw_only=True):
    """What happens to the stored text when the page is built."""

    asked: bool = False
    """Whether saving is not enough: readers see the piece only once the page is published."""


class View(Record, frozen=True, kw_only=True):
    """What the author sees in the editor itself."""

    shows: Literal["piece", "notice", "stand-ins"] = "piece"
    """The piece, a notice in its place, or the piece with grey boxes in the place of frames, scripts and media."""
    notice: str = ""
    """Text of the notice."""
    scripts: Literal["run", "still"] = "still"
    """Whether scripts run in the editor."""


class Box(Record, frozen=True, kw_only=True):
    """A sandboxed frame of its own in which the page shows the piece."""

    width: Positive
    """Width in CSS pixels."""
    height: Positive
    """Height in CSS pixels; what is longer scrolls inside."""
    sandbox: tuple[str, ...] = ()
    """Tokens of its ``sandbox`` attribute (HTML standard, 4.8.5)."""


class Limit(Record, frozen=True, kw_only=True):
    """A limit of size."""

    measure: Literal["pasted", "stored"]
    """Whether it counts what is pasted or what is stored."""
    of: Literal["piece", "attribute", "inline-picture"] = "piece"
    """What is counted: the whole piece, or each attribute's value or each picture in a ``data:`` address by itself."""
    unit: Literal["characters", "utf-16", "bytes", "levels", "frames", "pictures"]
    """Code points, UTF-16 code units, bytes of UTF-8, elements inside one another, frames, or pictures."""
    most: Positive
    """Largest size that passes."""
    already: NotNegative = 0
    """How much of it the rest of the page uses."""
    over: Literal["refuse", "cut", "drop", "warn"]
    """What happens above it: the piece is refused, the text is cut, what is too much goes, or the author is warned."""


class LearnedFrom(Record, frozen=True, kw_only=True):
    """What a profile that was learned rests on."""

    confidence: Annotated[int, Meta(ge=0, le=100)]
    """Of 100 pieces, how many it is expected to predict right."""
    elements: tuple[str, ...] = ()
    """Elements that were asked about."""
    attributes: tuple[str, ...] = ()
    """Attributes that were asked about."""
    properties: tuple[str, ...] = ()
    """Properties that were asked about."""


class Profile(Record, frozen=True, kw_only=True):
    """An editor's description."""

    format: Literal["verse-tray-editor/1"]
    """Version of this format."""
    extends: Name | None = None
    """Editor that this one is like, but for what stands here: a name, or a file or folder beside this one."""
    leave_out: tuple[str, ...] = ()
    """Dotted keys of that editor that do not hold here, such as ``save.elements``."""
    title: str
    """Name for people."""
    summary: str
    """One sentence on what this editor is and does."""
    frame: str = "frame.html"
    """File with the page around the piece; ``<!-- piece -->`` marks its place."""
    theme: str = "theme.css"
    """File with the site's usual styles; every other ``.css`` file beside it is a further theme, named by its file."""
    regions: tuple[str, ...] = ()
    """Names of the regions of one page that the piece has to go into, when there is more than one."""
    box: Box | None = None
    learned: LearnedFrom | None = None
    """What it rests on, where it was learned; None for one that somebody wrote."""
    view: View = View()
    paste: Paste = Paste()
    save: Save = Save()
    reopen: Reopen | None = None
    publish: Publish = Publish()
    limits: tuple[Limit, ...] = ()
    variants: dict[str, dict[str, Any]] = {}  # noqa: RUF012
    """Settings and roles by name: what differs, in the same keys; ``NAME:VARIANT`` names one."""
