"""A few lines of the author's file with a place marked."""

from __future__ import annotations

from verse_tray.model.decoding import Source
from verse_tray.model.spans import Span


def excerpt(source: Source, span: Span, width: int) -> tuple[str, str]:
    """Return the line in which ``span`` starts, cut to ``width`` around it, and a line of carets below it."""
    line, column = source.place(span.start)
    bounds = source.lines.line_span(line, len(source.text))
    text = source.text[bounds.start : bounds.end].rstrip("\r\n").replace("\t", " ")
    start = column - 1
    length = max(1, min(span.end, bounds.end) - span.start)
    left = 0
    if len(text) > width:
        left = max(0, min(start - width // 4, len(text) - width))
    shown = text[left : left + width]
    if left:
        shown = "…" + shown[1:]
    if left + width < len(text):
        shown = shown[:-1] + "…"
    carets = " " * (start - left) + "^" * max(1, min(length, len(shown) - (start - left)))
    return shown, carets
