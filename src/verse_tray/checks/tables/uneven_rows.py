"""Rows of a table that have different numbers of cells."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.checks.tables.rows import own_rows, span_of
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Cells stand below the wrong heading, or a hole stays at the end of a row.",
    advice="Give every row as many cells, or let one reach over several with colspan.",
    bad='<table><tr><th scope="col">Day</th><th scope="col">Low water</th></tr><tr><td>Saturday</td></tr>'
    "<tr><td>Sunday</td><td>06:58</td></tr></table>",
    good='<table><tr><th scope="col">Day</th><th scope="col">Low '
    "water</th></tr><tr><td>Saturday</td><td>06:12</td></tr>"
    "<tr><td>Sunday</td><td>06:58</td></tr></table>",
)
_MOST_COLUMNS, _MOST_ROWS = 1_000, 65_534


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each row that has more or fewer columns than most rows of its table."""
    for table in subject.each("table"):
        rows = own_rows(table)
        widths = _widths(rows)
        if len(rows) < 2 or len(set(widths)) < 2:
            continue
        usual = Counter(widths).most_common(1)[0][0]
        for row, width in zip(rows, widths, strict=True):
            if width != usual and row:
                yield Mistake(
                    subject.name_span(subject.parents[row[0].key]),
                    f"This row fills {counted(width, 'column')}, the others {usual}: "
                    f"{'cells stick out' if width > usual else 'a hole stays'} at its end. Give every row as many "
                    "cells, or let one reach over several with colspan.",
                    None if width > usual else Severity.NOTE,
                )


def _widths(rows: list[list[Element]]) -> list[int]:
    """Return how many columns each row fills, cells that reach down from above counted."""
    below: list[tuple[int, int]] = []  # rows still to go, columns
    widths = []
    for row in rows:
        width = sum(columns for _, columns in below)
        below = [(left - 1, columns) for left, columns in below if left > 1]
        for cell in row:
            columns = span_of(cell, "colspan", _MOST_COLUMNS)
            width += columns
            if (down := span_of(cell, "rowspan", _MOST_ROWS)) > 1:
                below.append((down - 1, columns))
        widths.append(width)
    return widths
