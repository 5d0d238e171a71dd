"""What a reading holds. All lengths are CSS pixels, all colours sRGB."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.style.colours import Colour


class Look(Struct, frozen=True):
    """How a run of text looks."""

    colour: Colour
    """Colour of its letters on what is behind them."""
    ground: Colour
    """What is behind them, as far as it is a colour."""
    size: float
    """Size of its letters."""
    bold: bool
    slanted: bool
    family: str
    """Kind of its letters: ``serif``, ``sans`` or ``mono``."""
    lines: frozenset[str]
    """Lines drawn with it: ``underline``, ``line-through``, ``overline``."""
    align: str
    """Where its lines stand: ``left``, ``center``, ``right`` or ``justify``."""
    spacing: float
    """Space added between letters."""
    leading: float
    """Height of a line as a share of the size; 1.15 where nobody says."""
    shadow: bool
    """Whether the letters throw a shadow."""


class Run(Struct, gc=False):
    """A run of text that is shown as one."""

    key: int
    """Key of its text, or of the element that makes it (``::before``); 0 for what an editor added."""
    text: str
    """The words as shown, white space folded."""
    look: Look
    roles: frozenset[str]
    """What it is to the reader: ``heading``, ``h2``, ``item``, ``cell``, ``strong`` …"""
    link: str
    """Where a click on it leads; empty for nowhere."""
    block: int
    """The block that it stands in, see :class:`Reading`."""
    made: bool = False
    """Whether a style makes it (``content``), not the markup."""
    apart: bool = True
    """Whether white space, a line end or another block stands before it."""
    below: bool = False
    """Whether a line end within the same block stands before it."""
    element: int = 0
    """Key of the element around it."""
    filled: bool = False
    """Whether an editor put it in the place of what the author wrote, as it was to do."""


class Painted(Struct, frozen=True):
    """What a box paints."""

    ground: Colour | None
    """Colour that it paints on what is behind it; None for none."""
    picture: str
    """Its background picture as written; empty for none."""
    borders: tuple[tuple[float, Colour | None], ...]
    """Width and colour of its borders: top, right, bottom, left."""
    radius: float
    padding: tuple[float, ...]
    shadow: bool
    turned: bool
    """Whether it is transformed or filtered."""
    size: tuple[float, float]
    """Width and height, where they are stated in pixels; 0 where they are not."""
    wide: bool = False
    """Whether it is as wide as its place, and not just as what is in it."""


class Box(Struct, gc=False):
    """A painted box: a ground, borders, a shadow or a picture behind what is in it."""

    key: int
    """Key of its element."""
    first: int
    """Number of the first run in it."""
    last: int
    """Number behind that of the last run in it."""
    painted: Painted


class Medium(Struct, gc=False):
    """A picture, a frame, a control, a line across."""

    key: int
    kind: str
    """``picture``, or the name of its element."""
    address: str
    said: str
    """What stands for it where it is not seen: its ``alt`` or ``title``."""
    width: float
    """Stated width; 0 for none."""
    height: float
    at: int
    """Number of the run behind it."""
    link: str = ""
    block: int = 0


class Block(Struct, gc=False):
    """Something that other content stands beside or below."""

    parent: int
    """The block around it."""
    key: int
    display: str
    """Its computed ``display``, or ``float``."""
    across: bool
    """Whether its children stand side by side."""
    gap: float
    """Space between its children, where they stand side by side."""
    before: float
    """Space above it: margin, border and padding."""
    after: float
    left: float
    right: float
    lifted: bool = False
    """Whether it stands where it stands whatever is around it."""


class Reading(Struct):
    """What readers see of a piece in its page, in a window of one width."""

    width: int
    runs: list[Run] = []
    boxes: list[Box] = []
    media: list[Medium] = []
    blocks: list[Block] = []
    """Blocks by number; the first is the piece's own."""
    hidden: list[tuple[int, str]] = []
    """Text that is not shown at first and that readers can bring forth, with its key."""
    spoken: list[tuple[int, str]] = []
    """Text that is not shown, and read out."""
    moving: dict[tuple[int, str], str] = {}
    """What changes when it is pointed at, and what moves by itself, by the element's key and what it is."""
    bounded: bool = False
    """Whether styles were left out, as matching them would have taken too long."""
