"""What readers of one editor's page, or of several, get of a text."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from verse_tray.fitting.judge import Judge, Judged
from verse_tray.fitting.kept import Kept
from verse_tray.fitting.table import Strategy
from verse_tray.fitting.trips import Trips

_WORSE = 3.0  # how often it counts once more that an editor's readers get less than they would as written


class Together(NamedTuple):
    """What readers of each editor get of a text."""

    text: str
    """The text."""
    share: float
    """The mean of what that is worth, up to 1, less where those of one get less than of the text as written."""
    each: tuple[Judged, ...]
    """What those of each get, in the order of the editors."""


class Judges:
    """Compares what readers of one or more editors get of texts with the author's piece."""

    def __init__(self, trips: Sequence[Trips], text: str) -> None:
        self.trips = trips
        """The journeys, by editor."""
        self.text = text
        """The author's text."""
        self.judges = [Judge(each, text) for each in trips]
        """The comparison in each editor."""
        self._found: Kept[Together] = Kept()

    def judge(self, text: str) -> Together:
        """Return what readers get of a text."""
        return self._found.of(text, self._judged)

    def _judged(self, text: str) -> Together:
        found = tuple(judge.judge(text) for judge in self.judges)
        return Together(text, self._share(text, found), found)

    def _share(self, text: str, found: tuple[Judged, ...]) -> float:
        mean = sum(each.worth for each in found) / len(found)
        if len(found) == 1 or text == self.text:
            return mean
        written = self.judge(self.text).each
        losses = (max(0.0, one.worth - other.worth) for one, other in zip(written, found, strict=True))
        return mean - _WORSE * sum(losses) / len(found)

    def applied(self, text: str, strategy: Strategy) -> str:
        """Return a text as a strategy leaves it: for each editor in turn."""
        for each in self.trips:
            text = each.applied(text, strategy)
        return text

    def of_another(self, text: str) -> Judges:
        """Return what compares texts with another piece, in the same editors."""
        return Judges(self.trips, text)
