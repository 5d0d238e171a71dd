"""The records of a profile. Key names are those of ``editor.toml``.

Every default changes nothing: an empty profile describes an editor that keeps what it is given.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from msgspec import Meta

from verse_tray.editors.filters import Filter, Name, Record

FORMAT = "verse-tray-editor/1"

Positive = Annotated[int, Meta(ge=1)]
NotNegative = Annotated[int, Meta(ge=0)]


class Paste(Filter, frozen=True, kw_only=True):
    """What the editor does when the author pastes."""

    pane: Literal["source", "visual-text", "visual-rich"] = "source"
    """The pane that takes the paste: the source pane changes nothing, the visual pane takes markup as plain text
    (readers see the tags) or as rich text (what a browser's own editing surface keeps)."""
    lines: Literal["paragraphs", "divisions", "breaks"] = "paragraphs"
    """What each line of plain text becomes in the visual pane."""


class Save(Filter, frozen=True, kw_only=True):
    """What the editor does when the author saves."""

    writes: Literal["as-typed", "anew"] = "as-typed"
    """Whether the rest is stored as it was typed, or everything is written anew as a browser would."""
    references: Literal["plain", "named", "numeric"] = "plain"
    """How signs beyond ASCII are stored when everything is written anew: as they are, or as references."""
    void_tags: Literal["plain", "slash"] = "plain"
    """Whether tags that never have an end tag are written as ``<br>`` or as ``<br />`` when all is written anew."""


class Reopen(Filter, frozen=True, kw_only=True):
    """What the visual pane does when a stored piece is opened in it and saved again; all is written anew."""

    paragraphs: bool = False
    """Whether blank lines in text outside blocks make paragraphs, and single line ends make line breaks."""
    white_space: Literal["keep", "fold"] = "keep"
    """Whether white space is folded into single spaces, outside ``pre`` and ``textarea``."""
    non_breaking_spaces: Literal["keep", "plain"] = "keep"
    """Whether non-breaking spaces become plain ones."""
    quotes: Literal["keep", "straight"] = "keep"
    """Whether curly quotes in text become straight ones."""
    merge_elements: tuple[str, ...] = ()
    """Elements that become one when two alike stand side by side."""
    nesting: Literal["keep", "repair"] = "keep"
    """Whether text-level elements around blocks are moved inside them, and stray list items get their list."""
    remove_empty_elements: tuple[str, ...] = ()
    """Elements that go when they hold neither text nor anything that shows."""
    trailing_breaks: Literal["keep", "drop"] = "keep"
    """What becomes of line breaks at the end of blocks."""
    references: Literal["plain", "named", "numeric"] = "plain"
    """How signs beyond ASCII are stored."""
    void_tags: Literal["plain", "slash"] = "plain"
    """Whether tags that never have an end tag are written as ``<br>`` or as ``<br />``."""


class Players(Record, frozen=True, kw_only=True):
    """Links to films that become players."""

    long: Name
    """Long form of a film's address, with ``{id}`` in the place of its name, such as
    ``https://films.example/watch?film={id}``."""
    short: str | None = None
    """Short form, such as ``https://film.example/{id}``."""
    player: Name
    """Address of the player in the frame, with ``{id}``."""
    width: Positive = 640
    """Width of the player in CSS pixels."""
    height: Positive = 360
    """Height of the player in CSS pixels."""
    links: bool = True
    """Whether linked text becomes a player, and not just an address that stands by itself."""
    leave_alone: str | None = None
    """Query parameter, such as ``plain=1``, that keeps a link a link. It counts in the long form only, behind an
    ampersand that is escaped in the stored text."""


class Fill(Record, frozen=True, kw_only=True):
    """References to holders of raw code, and fields, filled in when the page is built."""

    opening: Name = "{{"
    """What stands before a name."""
    closing: Name = "}}"
    """What stands behind a name."""
    values: dict[str, str] = {}  # noqa: RUF012
    """Texts of fields, by name."""
    holders: dict[str, str] = {}  # noqa: RUF012
    """Markup of holders, by name; no rule of the editor touches it."""
    unknown: Literal["leave", "blank", "error"] = "leave"
    """What becomes of a name that is neither: it is left as it is, it is left out, or the page is not built."""


class Publish(Filter, frozen=True, kw_only=True):
    """What happens to the stored text when the page is built."""

    asked: bool = False
    """Whether saving is not enough: readers see the piece only once the page is published."""
    fill: Fill | None = None
    players: Players | None = None
    address_links: bool = False
    """Whether addresses that stand in text become links."""
    typography: Literal["keep", "curly"] = "keep"
    """Whether straight quotes become curly ones, and two or three hyphens dashes."""
    typography_in_code: bool = False
    """Whether that happens in code samples too."""
    link_rel: tuple[str, ...] = ()
    """Link types that every link is given in ``rel``."""
    link_target: str | None = None
    """Window that every link is given in ``target``."""
    own_hosts: tuple[str, ...] = ()
    """Hosts whose links get neither."""


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
    view: View = View()
    paste: Paste = Paste()
    save: Save = Save()
    reopen: Reopen | None = None
    publish: Publish = Publish()
    limits: tuple[Limit, ...] = ()
    variants: dict[str, dict[str, Any]] = {}  # noqa: RUF012
    """Settings and roles by name: what differs, in the same keys; ``NAME:VARIANT`` names one."""
