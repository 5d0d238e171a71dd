"""A table from rows of cells."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from verse_tray.make.builder import Builder, Made, Styles
from verse_tray.make.measure_text import PHONE, SMALLEST, USUAL, longest_word
from verse_tray.markup.tree import Node
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted, listed

_NUMBER = lazy(r"[+\-−]?\s*[$€£]?\s*\d[\d\s.,'’]*(?:\s?(?:%|[A-Za-z°µ]{1,3}²?|[$€£]))?|[–—-]?|n/?a", re.IGNORECASE)
_DIGIT = lazy(r"\d")
_MOST_ROWS = 5_000
_PADDING = 8
_STRIPE = "#f1f7f6"


class TableLook(Struct, frozen=True):
    """How a table looks."""

    header: bool = True
    """Whether the first row is a header."""
    row_headers: bool = False
    """Whether the first cell of each row says what the row is about."""
    widths: Literal["natural", "equal"] = "natural"
    """Widths of the columns."""
    borders: Literal["rows", "all", "none"] = "rows"
    """Lines between cells."""
    stripes: bool = False
    """Whether every second row has a ground of its own."""
    caption: str = ""
    """Its caption."""
    colour: str = "#2f6f73"
    """Colour of the header and the lines."""
    region: int = PHONE
    """Width in CSS pixels that a phone leaves it."""


def make_table(
    rows: list[list[str]], look: TableLook, styles: Styles, *, name: str | None = None, source: str = ""
) -> Made:
    """Make a table; columns of numbers are found and stand to the right, and the text size that fits a phone is told.

    >>> look = verse_tray.TableLook(caption="Counts", stripes=True)
    >>> made = verse_tray.make_table([["What", "How many"], ["Limpets", "41"]], look, verse_tray.Styles.NONE)
    >>> print(made.markup.splitlines()[0])
    <table>

    Raises:
        InputError: there are no rows, they differ in length, or there are too many for a page.
    """
    _check(rows, look, source)
    build = Builder("table", styles, (rows, look), name=name)
    size = _fit(build, rows, look)
    parts = _Parts(build, rows, look)
    layout = "; table-layout: fixed" if look.widths == "equal" else ""
    font = "" if build.has_rules or size == USUAL else f"; font-size: {size}px"
    whole = f"border-collapse: collapse; width: 100%; margin: 16px 0{layout}{font}"
    table = build.element("table", *parts.all(), look=whole, role="whole")
    if look.stripes:
        build.rule("&whole tbody tr:nth-child(even)", f"background: {_STRIPE}")
    if size < USUAL:
        build.rule("&whole", f"font-size: {size}px", "@media (max-width: 600px)")
    return build.made(table)


def _check(rows: list[list[str]], look: TableLook, source: str) -> None:
    columns = len(rows[0]) if rows else 0
    if not rows or not columns or (look.header and len(rows) < 2):
        raise InputError(
            f"{source}: a table needs at least one row of cells{' below its header' if look.header else ''}."
        )
    if len(rows) > _MOST_ROWS:
        raise InputError(
            f"{source}: {len(rows):,} rows are more than a page can show; at most {_MOST_ROWS:,}. Choose some."
        )
    for number, row in enumerate(rows, 1):
        if len(row) != columns:
            raise InputError(
                f"{source}: row {number} has {counted(len(row), 'cell')}, the first {columns}. Give each as many."
            )


class _Parts:
    """The parts of a table, in the order in which they stand."""

    def __init__(self, build: Builder, rows: list[list[str]], look: TableLook) -> None:
        self._build = build
        self._look = look
        self._head, self._body = (rows[0], rows[1:]) if look.header else ([], rows)
        self._columns = len(rows[0])
        self._numeric = [_is_numeric([row[column] for row in self._body]) for column in range(self._columns)]
        line = f"1px solid {look.colour}"
        edge = {"rows": f"border-bottom: {line}", "all": f"border: {line}", "none": ""}[look.borders]
        self._cell_look = "; ".join(part for part in (f"padding: {_PADDING - 2}px {_PADDING}px", edge) if part)

    def all(self) -> Iterator[Node]:
        build, look = self._build, self._look
        if look.caption:
            yield build.element("caption", look.caption, look="padding: 6px 0; text-align: left", role="caption")
        if look.widths == "equal":
            width = f"{100 / self._columns:.4g}%"
            columns = [build.element("col", look=f"width: {width}", role="column") for _ in range(self._columns)]
            yield build.element("colgroup", *columns)
        if look.header:
            # no ground of its own with light words on it: where an editor takes the ground away, nobody could read them
            ground = f"color: {look.colour}"
            heads = [self._cell("th", text, at, "head", ground, scope="col") for at, text in enumerate(self._head)]
            yield build.element("thead", build.element("tr", *heads))
        yield build.element("tbody", *(self._row(number, row) for number, row in enumerate(self._body)))

    def _row(self, number: int, row: list[str]) -> Node:
        striped = self._look.stripes and number % 2 == 1
        ground = f"background: {_STRIPE}" if striped and not self._build.has_rules else ""
        cells = [
            self._cell("th", text, column, "row", ground, scope="row")
            if self._look.row_headers and column == 0
            else self._cell("td", text, column, "cell", ground)
            for column, text in enumerate(row)
        ]
        return self._build.element("tr", *cells)

    def _cell(self, tag: str, text: str, column: int, role: str, ground: str, **attributes: str | None) -> Node:
        numeric = self._numeric[column]
        # a cell of data stands to the left anyway, a header cell in the middle
        align = "right" if numeric else "left" if tag == "th" else ""
        parts = (self._cell_look, f"text-align: {align}" if align else "", ground)
        look = "; ".join(part for part in parts if part)
        return self._build.element(tag, text, look=look, role=f"{role}-number" if numeric else role, **attributes)


def _is_numeric(cells: list[str]) -> bool:
    filled = [text.strip() for text in cells if text.strip()]
    return any(_DIGIT.search(text) for text in filled) and all(_NUMBER.fullmatch(text) for text in filled)


def _fit(build: Builder, rows: list[list[str]], look: TableLook) -> int:
    """Return the size of text at which a table fits a phone, and tell it."""
    columns = len(rows[0])
    widest = [0.0] * columns
    for number, row in enumerate(rows):
        bold = look.header and number == 0
        for column, text in enumerate(row):
            widest[column] = max(widest[column], longest_word(text, bold=bold))
    gaps = columns * (2 * _PADDING + 1)
    needed = (max(widest) * columns if look.widths == "equal" else sum(widest)) + gaps
    numeric = [str(c + 1) for c in range(columns) if _is_numeric([r[c] for r in (rows[1:] if look.header else rows)])]
    if numeric:
        build.notes.append(f"Columns of numbers, aligned to the right: {listed(numeric)}.")
    if needed <= look.region:
        build.notes.append(f"It fits a phone: its widest words need {needed:.0f} of {look.region} pixels.")
        return USUAL
    size = int(USUAL * (look.region - gaps) / max(needed - gaps, 1))
    if size >= SMALLEST:
        where = "on narrow screens" if build.has_rules else "everywhere, as a style attribute knows no screens"
        build.notes.append(
            f"At {USUAL} pixels its widest words need {needed:.0f} of a phone's {look.region}, so its text is {size} "
            f"pixels {where}."
        )
        return size
    build.notes.append(
        f"It does not fit a phone: its widest words need {needed:.0f} of {look.region} pixels, and below {SMALLEST} "
        "pixels nobody reads it. Leave columns out, shorten words, or put it into a box that scrolls."
    )
    return SMALLEST
