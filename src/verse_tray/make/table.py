"""A table from rows of cells."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from verse_tray.make.builder import Builder, Made, Styles, Terms
from verse_tray.make.measure_text import PHONE, SMALLEST, USUAL, longest_word
from verse_tray.make.survive import form as form_
from verse_tray.markup.tree import Node
from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted, listed

_NUMBER = lazy(r"[+\-−]?\s*[$€£]?\s*\d[\d\s.,'’]*(?:\s?(?:%|[A-Za-z°µ]{1,3}²?|[$€£]))?|[–—-]?|n/?a", re.IGNORECASE)
_DIGIT = lazy(r"\d")
_CELLS = ("tag:table", "tag:tr", "tag:td")
FORMS = (
    form_("styled", "styled", *_CELLS, "property:border-collapse"),
    form_("attributes", "drawn by attributes", *_CELLS, "attribute:border"),
    form_("plain", "a plain table", *_CELLS),
    form_("lines", "a line for each row"),
)
"""The forms of a table, the best first."""
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
    phone: Literal["fit", "shrink", "scroll", "stack"] = "fit"
    """What it does on a phone: get smaller letters, scroll in a box, or show each row as a list; ``fit``: smaller
    letters where these can be read, else scroll."""


def make_table(
    rows: list[list[str]],
    look: TableLook,
    styles: Styles | Terms,
    *,
    form: str = "styled",
    name: str | None = None,
    source: str = "",
) -> Made:
    """Make a table; columns of numbers are found and stand to the right, and the text size that fits a phone is told.

    >>> look = verse_tray.TableLook(caption="Counts", stripes=True)
    >>> made = verse_tray.make_table([["What", "How many"], ["Limpets", "41"]], look, verse_tray.Styles.NONE)
    >>> print(made.markup.splitlines()[0])
    <table>

    Args:
        rows: Its rows of cells.
        look: How it looks.
        styles: Where its look goes.
        form: ``styled``; ``attributes`` for editors that keep attributes, and no styles; ``plain``; ``lines``.
        name: What its classes begin with.
        source: Where the rows come from, for messages.

    Raises:
        InputError: there are no rows, they differ in length, or there are too many for a page.
    """
    _check(rows, look, source)
    build = Builder("table", styles, (rows, look), name=name)
    if form == "lines":
        return build.made(*_lines(build, rows, look))
    styled = form == "styled" and build.styles is not Styles.NONE
    fit = _Fit(build, rows, look) if styled else None
    size, scrolls, stacks = (USUAL, False, False) if fit is None else (fit.size, fit.scrolls, fit.stacks)
    parts = _Parts(build, rows, look, form, stacks=stacks)
    layout = "; table-layout: fixed" if look.widths == "equal" else ""
    font = "" if build.has_rules or size == USUAL else f"; font-size: {size}px"
    whole = f"border-collapse: collapse; width: 100%; margin: 16px 0{layout}{font}" if form == "styled" else ""
    drawn = {"border": "1" if look.borders == "all" else "0", "cellpadding": "6", "cellspacing": "0", "width": "100%"}
    extra: dict[str, str | None] = dict(drawn) if form == "attributes" else {}
    table = build.element("table", *parts.all(), look=whole, role="whole", **extra)
    if look.stripes and form == "styled":
        build.rule("&whole tbody tr:nth-child(even)", f"background: {_STRIPE}")
    if size < USUAL:
        build.rule("&whole", f"font-size: {size}px", _NARROW)
    if stacks:
        _stack(build)
    before: list[Node] = []
    if look.caption and build.terms.lacks("tag", "caption", "caption"):
        before = [build.element("p", build.element("b", look.caption))]
    if not scrolls:
        return build.made(*before, table)
    box = build.element(
        "div", table, look="overflow-x: auto", role="box", tabindex="0", role_="region",
        aria_label=look.caption or "Table",
    )  # fmt: skip
    return build.made(*before, box)


_NARROW = "@media (max-width: 600px)"


def _stack(build: Builder) -> None:
    """Show each row as a list on narrow screens, each cell behind the heading of its column."""
    whole = f".{build.class_of('whole')}"
    parts = f"{whole}, {whole} tbody, {whole} tr, {whole} td, {whole} tbody th"
    build.rule(parts, "display: block; text-align: left", _NARROW)
    build.rule(f"{whole} thead", "display: none", _NARROW)
    build.rule(f"{whole} tr", "margin-bottom: 16px", _NARROW)
    build.rule(f"{whole} [data-heading]::before", 'content: attr(data-heading) ": "; font-weight: bold', _NARROW)


def _lines(build: Builder, rows: list[list[str]], look: TableLook) -> Iterator[Node]:
    """Yield a paragraph for each row, for editors that keep no tables."""
    heads = rows[0] if look.header else [""] * len(rows[0])
    if look.caption:
        yield build.element("p", build.element("b", look.caption))
    for row in rows[1:] if look.header else rows:
        said = (f"{head}: {cell}" if head.strip() else cell for head, cell in zip(heads, row, strict=True))
        yield build.element("p", "; ".join(part for part in said if part.strip()))


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

    def __init__(
        self, build: Builder, rows: list[list[str]], look: TableLook, form: str, *, stacks: bool = False
    ) -> None:
        self._build = build
        self._form = form
        self._stacks = stacks
        self._look = look
        self._head, self._body = (rows[0], rows[1:]) if look.header else ([], rows)
        self._columns = len(rows[0])
        self._numeric = [_is_numeric([row[column] for row in self._body]) for column in range(self._columns)]
        line = f"1px solid {look.colour}"
        edge = {"rows": f"border-bottom: {line}", "all": f"border: {line}", "none": ""}[look.borders]
        self._cell_look = "; ".join(part for part in (f"padding: {_PADDING - 2}px {_PADDING}px", edge) if part)

    def all(self) -> Iterator[Node]:
        build, look = self._build, self._look
        if look.caption and not build.terms.lacks("tag", "caption", "caption"):
            yield build.element("caption", look.caption, look="padding: 6px 0; text-align: left", role="caption")
        if look.widths == "equal" and self._form != "plain":
            width = f"{100 / self._columns:.4g}%"
            of = f"width: {width}" if self._form == "styled" else ""
            by = width if self._form == "attributes" else None
            columns = [build.element("col", look=of, role="column", width=by) for _ in range(self._columns)]
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
        plain: dict[str, str] = {"bgcolor": _STRIPE} if striped and self._form == "attributes" else {}
        cells = [
            self._cell("th", text, column, "row", ground, scope="row")
            if self._look.row_headers and column == 0
            else self._cell("td", text, column, "cell", ground)
            for column, text in enumerate(row)
        ]
        made = self._build.element("tr", *cells)
        self._build.add(made, **plain)
        return made

    def _cell(self, tag: str, text: str, column: int, role: str, ground: str, **attributes: str | None) -> Node:
        numeric = self._numeric[column]
        role = f"{role}-number" if numeric else role
        if self._stacks and tag != "th" and self._head and self._head[column].strip():
            attributes["data_heading"] = self._head[column].strip()
        if self._form != "styled":
            if numeric and self._form == "attributes":
                attributes["align"] = "right"
            return self._build.element(tag, text, look="", role="", **attributes)
        # a cell of data stands to the left anyway, a header cell in the middle
        align = "right" if numeric else "left" if tag == "th" else ""
        parts = (self._cell_look, f"text-align: {align}" if align else "", ground)
        look = "; ".join(part for part in parts if part)
        return self._build.element(tag, text, look=look, role=role, **attributes)


def _is_numeric(cells: list[str]) -> bool:
    filled = [text.strip() for text in cells if text.strip()]
    return any(_DIGIT.search(text) for text in filled) and all(_NUMBER.fullmatch(text) for text in filled)


class _Fit:
    """How a table fits a phone; what there is to say of that is told."""

    def __init__(self, build: Builder, rows: list[list[str]], look: TableLook) -> None:
        self.size = USUAL
        """Size of its text in CSS pixels."""
        self.stacks = look.phone == "stack" and build.has_rules
        """Whether each row becomes a list."""
        self.scrolls = look.phone == "scroll"
        """Whether it scrolls in a box."""
        body = rows[1:] if look.header else rows
        numeric = [str(c + 1) for c in range(len(rows[0])) if _is_numeric([row[c] for row in body])]
        if numeric:
            build.notes.append(f"Columns of numbers, aligned to the right: {listed(numeric)}.")
        needed, gaps = _needed(rows, look)
        if look.phone == "stack":
            build.notes.append(_STACKED if self.stacks else _NOT_STACKED)
        if self.stacks:
            return
        if needed <= look.region:
            self.scrolls = False
            build.notes.append(f"It fits a phone: its widest words need {needed:.0f} of {look.region} pixels.")
            return
        self._shrink(build, look, needed, gaps)

    def _shrink(self, build: Builder, look: TableLook, needed: float, gaps: int) -> None:
        size = int(USUAL * (look.region - gaps) / max(needed - gaps, 1))
        words = f"its widest words need {needed:.0f} of a phone's {look.region} pixels"
        if look.phone == "scroll" or (look.phone != "shrink" and size < SMALLEST):
            self.scrolls = True
            build.notes.append(f"It stands in a box that scrolls on a phone: {words}.")
        elif size >= SMALLEST:
            self.size = size
            where = "on narrow screens" if build.has_rules else "everywhere, as a style attribute knows no screens"
            build.notes.append(f"At {USUAL} pixels {words}, so its text is {size} pixels {where}.")
        else:
            self.size = SMALLEST
            build.notes.append(
                f"It does not fit a phone: {words}, and below {SMALLEST} pixels nobody reads it. Leave columns out, "
                "shorten words, or let it scroll: --phone scroll."
            )


_STACKED = "On a phone each row is a list, each cell behind the heading of its column."
_NOT_STACKED = (
    "Rows become lists on a phone by a style element only: --styles element. It gets smaller letters instead."
)
_WIDER = 1.15  # the fonts of readers differ from the one that is measured: held against a browser with three of them


def _needed(rows: list[list[str]], look: TableLook) -> tuple[float, int]:
    """Return the width that a table needs at the usual size, and what of it are gaps, in CSS pixels."""
    columns = len(rows[0])
    widest = [0.0] * columns
    for number, row in enumerate(rows):
        bold = look.header and number == 0
        for column, text in enumerate(row):
            thick = bold or (look.row_headers and column == 0)
            widest[column] = max(widest[column], longest_word(text, bold=thick) * _WIDER)
    gaps = columns * (2 * _PADDING + 1)
    return (max(widest) * columns if look.widths == "equal" else sum(widest)) + gaps, gaps
