"""Columns of tables that are too narrow for their text."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.rendered.facts import PageFacts, TableFacts
from verse_tray.preview.rendered.seen import Seen

_TIGHT = 9  # characters in a line
_READABLE = 12  # pixels
_LINES = 2  # lines of a cell that are fine


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
    """Return the largest text size in whole pixels at which no cell needs more than two lines."""
    around = sum(column.around for column in table.columns)
    needed = sum(max(column.word, column.full / _LINES * 1.08) for column in table.columns)  # lines never fill evenly
    largest = max(column.size for column in table.columns)
    room = min(table.width, table.room) - around
    return 0 if room <= 0 or needed <= 0 else min(int(largest), int(largest * room / needed))
