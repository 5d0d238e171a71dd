"""Edits of a text that leave the rest of it as it was typed."""

from __future__ import annotations

from bisect import bisect_right
from typing import NamedTuple

from verse_tray.model.spans import Span


class Splice(NamedTuple):
    """One replacement."""

    span: Span
    """What goes, in the text before."""
    text: str
    """What comes in its place; empty for a cut."""


def _order(splice: Splice) -> tuple[int, bool, int]:
    start, end = splice.span
    return start, end > start, -end  # what is put in before a place comes before what goes from there


class Spliced:
    """A text after its splices, and the way back to the text before."""

    def __init__(self, text: str, splices: list[Splice]) -> None:
        """Carry out ``splices``; one that lies within another is swallowed by it.

        Raises:
            ValueError: two splices overlap without one holding the other.
        """
        pieces: list[str] = []
        self._new: list[int] = []
        self._old: list[int] = []
        at = length = 0
        for span, replacement in sorted(splices, key=_order):
            if span.start < at:
                if span.end <= at:
                    continue
                raise ValueError("splices overlap")
            self._keep(at, length)
            pieces += (text[at : span.start], replacement)
            length += span.start - at + len(replacement)
            at = span.end
        self._keep(at, length)
        pieces.append(text[at:])
        self.text = "".join(pieces)
        """The text after the splices."""

    def _keep(self, old: int, new: int) -> None:
        self._old.append(old)
        self._new.append(new)

    def new_offset(self, old: int) -> int:
        """Return where an offset of the old text, itself not spliced away, has gone."""
        index = bisect_right(self._old, old) - 1
        return self._new[index] + old - self._old[index]
