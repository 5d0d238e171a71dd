"""Where something stands in a text."""

from __future__ import annotations

from bisect import bisect_right
from typing import NamedTuple


class Span(NamedTuple):
    """A stretch of a text, in code points from its start; ``end`` is exclusive."""

    start: int
    """Offset of the first code point, 0-based."""
    end: int
    """Offset behind the last code point."""


class Position(NamedTuple):
    """A place as people name it."""

    line: int
    """Line, 1-based; LF, CRLF and a lone CR each end one line."""
    column: int
    """Column, 1-based, in code points; a tab counts one, a character beyond 16 bits counts one."""


class LineIndex:
    """Turns offsets of one text into lines and columns."""

    __slots__ = ("_starts",)

    def __init__(self, text: str) -> None:
        starts = [0]
        find = text.find
        at = find("\n")
        while at >= 0:
            starts.append(at + 1)
            at = find("\n", at + 1)
        if "\r" in text:
            lone = [i + 1 for i, sign in enumerate(text) if sign == "\r" and text[i + 1 : i + 2] != "\n"]
            starts = sorted({*starts, *lone})
        self._starts = starts

    def place(self, offset: int) -> Position:
        """Return the place of ``offset`` (0-based, at most the length of the text)."""
        line = bisect_right(self._starts, offset)
        return Position(line, offset - self._starts[line - 1] + 1)

    def line_span(self, line: int, length: int) -> Span:
        """Return the span of ``line`` (1-based) in a text of ``length``, its line end left out as far as LF goes."""
        start = self._starts[line - 1]
        end = self._starts[line] - 1 if line < len(self._starts) else length
        return Span(start, end)
