"""Columns of tables that are too narrow for their text."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import ColumnFacts, PageFacts, TableFacts
from verse_tray.preview.measuring.observation import Seen

_TIGHT = 9  # characters in a line
_READABLE = 12  # pixels
_LINES = 2  # lines of a cell that are fine
_UNEVEN = 1.15  # lines never fill evenly


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield tables with a column whose text stands in a tower of short lines, and the text size that would do."""
    for table in page.tables:
        squeezed = [column for column in table.columns if column.tight < _TIGHT]
        if not squeezed:
            continue
        worst = min(squeezed, key=lambda column: column.tight)
        size = fitting_size(table)
        largest = max(column.size for column in table.columns)
        advice = (
            "The columns beside it take more than they need: give this one a width."
            if size >= largest
            else f"A text size of {size} px would fit."
            if size >= _READABLE
            else "No readable text size fits: let the table scroll sideways in a box, take a column out, or stack "
            "the cells."
        )
        yield Seen(
            "column-squeezed",
            worst.number,
            f"This column is squeezed to {worst.inner:.0f} px: {worst.lines} lines of about {worst.tight:.0f} "
            "characters, "
            f"in text of {largest:.0f} px. {advice}",
            Severity.WARNING,
            1 / max(worst.tight, 1),
        )


def fitting_size(table: TableFacts) -> int:
    """Return the largest text size in whole pixels at which no column is squeezed; 0 if there is none.

    Columns get their longest word, and of what is left as much as their texts are longer than that: the automatic
    table layout of browsers (CSS Tables 3, 4.2.3).
    """
    largest = max(column.size for column in table.columns)
    room = min(table.width, table.room) - sum(column.around for column in table.columns)
    for size in range(int(largest), 0, -1):
        scale = size / largest
        least = sum(column.word for column in table.columns) * scale
        most = sum(column.full for column in table.columns) * scale
        if least > room:
            continue
        share = 1.0 if most <= room else (room - least) / max(most - least, 1)
        if all(_has_room(column, scale, share) for column in table.columns):
            return size
    return 0


def _has_room(column: ColumnFacts, scale: float, share: float) -> bool:
    width = (column.word + (column.full - column.word) * share) * scale
    if share >= 1 or width <= 0:
        return True
    lines = ceil(column.full * scale * _UNEVEN / width)
    return lines <= _LINES or column.characters / lines >= _TIGHT
