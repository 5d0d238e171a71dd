"""What was measured of a page: records of what :file:`measure.js` returns. Lengths are CSS pixels."""

from __future__ import annotations

from functools import cached_property

import msgspec

Rgb = tuple[float, float, float]


class ElementFacts(msgspec.Struct, frozen=True, gc=False):
    """One element of a piece."""

    number: int
    """Its number, see :func:`verse_tray.journeys.highlights.numbered`."""
    name: str
    x: float
    y: float
    width: float
    height: float
    left: float
    """Left edge of what it shows."""
    right: float
    """Right edge of what it shows, its own text that flows over included."""
    scrolls: str
    """How the next element around it that does not let its contents flow over treats them, ``beside`` where it stands
    wholly outside of that one; empty if none does."""
    shown: bool
    """Whether it is displayed, visible and not seen through."""
    inside: bool
    """Whether an element without height or width has something in it that has both."""
    text: int
    """Characters of its own text."""
    display: str
    size: float
    """Font size."""
    family: str
    bold: bool
    painted: bool
    """Whether it has a ground of its own."""
    bordered: bool
    ink: Rgb | None = None
    """Colour of its text as it is seen, each part from 0 to 255; None without text, or where it cannot be known."""
    ground: Rgb | None = None
    """Colour behind its text; None where a picture lies there."""
    natural: tuple[float, float] | None = None
    """Size of the picture's file."""
    content: tuple[float, float] | None = None
    """Size at which the picture is shown."""
    fit: str = ""
    """``object-fit``."""
    holds: tuple[float, float] | None = None
    """How much wider and higher a frame's contents are than the frame."""
    target: tuple[float, float] | None = None
    """Size to be hit by a finger, of something that can be pressed."""
    sentence: bool = False
    """Whether that stands within a sentence."""
    beyond: tuple[float, float] | None = None
    """How far text in it reaches beyond its right and its lower edge; None where none does, or nobody would mind."""
    cuts: bool = False
    """Whether it does not show what reaches beyond."""
    default_height: float | None = None
    """Height of a frame to which none was given that counts, borders left out; None for one that has one."""


class TextFacts(msgspec.Struct, frozen=True, gc=False):
    """One run of text of an element."""

    number: int
    """Number of the element; 0 for text that stands outside all elements of the piece."""
    run: int
    """Which run of that element, from 0; texts that stand side by side are one."""
    x: float
    y: float
    width: float
    height: float
    size: float
    """Font size."""
    family: str
    bold: bool
    slanted: bool


class ColumnFacts(msgspec.Struct, frozen=True, gc=False):
    """A column of a table, or what its cells without spans tell of it."""

    inner: float
    """Width for its text."""
    around: float
    """Padding and borders of a cell."""
    word: float
    """Width of its longest word."""
    full: float
    """Width of its longest text, on one line."""
    characters: int
    """Characters of that text."""
    tight: float
    """Fewest characters in a line, of cells with three lines and more; very many if there are none."""
    lines: int
    """Lines of that cell."""
    number: int
    """Number of that cell."""
    size: float
    """Largest font size."""


class TableFacts(msgspec.Struct, frozen=True, gc=False):
    """A table."""

    number: int
    width: float
    room: float
    """Width of what it stands in."""
    columns: tuple[ColumnFacts, ...]


class PageFacts(msgspec.Struct, frozen=True, dict=True):
    """A page with the piece in it."""

    window: int
    """Width of the window."""
    scrolls: float
    """Width of the page."""
    piece: tuple[float, float, float, float]
    """Place of the region that holds the piece: x, y, width, height."""
    elements: tuple[ElementFacts, ...]
    texts: tuple[TextFacts, ...]
    """Runs of text that are seen."""
    tables: tuple[TableFacts, ...]
    box: tuple[float, float, float, float, float] | None = None
    """Frame of the piece's own: its left edge, its width and height, and width and height of what is in it."""

    @property
    def extent(self) -> tuple[float, float, float, float]:
        """What holds all that is displayed of the piece: its left, top, right and bottom; nothing's is all 0."""
        parts: list[ElementFacts | TextFacts] = [*(each for each in self.elements if each.shown), *self.texts]
        if not parts:
            return 0, 0, 0, 0
        right, bottom = max(each.x + each.width for each in parts), max(each.y + each.height for each in parts)
        return min(each.x for each in parts), min(each.y for each in parts), right, bottom

    @cached_property
    def shown(self) -> dict[int, ElementFacts]:
        """The elements that are displayed, by number; where a piece stands there twice, those that are."""
        return {each.number: each for each in self.elements if each.shown}


def page_facts(measured: str) -> PageFacts:
    """Turn what the script returned, JSON with what is no number as a text, into records."""
    return msgspec.json.decode(measured, type=PageFacts, strict=False)
