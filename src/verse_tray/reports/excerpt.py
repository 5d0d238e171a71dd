"""A few lines of the author's file with a place marked."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from itertools import accumulate

from rich.cells import cell_len

from verse_tray.model.decoding import Source
from verse_tray.model.spans import Span
from verse_tray.reports.signs import visible


def excerpt(source: Source, span: Span, width: int) -> tuple[str, str]:
    """Return the line in which ``span`` starts, cut around it to ``width`` terminal cells, and carets below it."""
    line, column = source.place(span.start)
    bounds = source.lines.line_span(line, len(source.text))
    text = visible(source.text[bounds.start : bounds.end].rstrip("\r\n").replace("\t", " "))
    start = column - 1
    length = max(1, min(span.end, bounds.end) - span.start)
    cells = [*accumulate(map(cell_len, text), initial=0)]  # in front of each sign, and behind the last
    left, right = 0, len(text)
    if cells[-1] > width:
        left = bisect_left(cells, max(0, min(cells[min(start, len(text))] - width // 4, cells[-1] - width)))
        right = bisect_right(cells, cells[left] + width) - 1
    shown = text[left:right]
    if left:
        shown = "…" + shown[1:]
    if right < len(text):
        shown = shown[:-1] + "…"
    at = start - left
    carets = " " * cell_len(shown[:at]) + "^" * max(1, cell_len(shown[at : at + length]))
    return shown, carets
