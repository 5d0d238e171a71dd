"""Mending what can be mended with certainty."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from msgspec import Struct

from verse_tray.checks import Found, find
from verse_tray.journeys.piece import Piece
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.findings import Finding
from verse_tray.model.reading import Source

_ROUNDS = 5  # a mend can bring another mistake to light: an address that only now is one


class Mended(Struct, frozen=True):
    """A piece, mended."""

    text: str
    """The text afterwards."""
    mended: tuple[Finding, ...]
    """What was mended; places are those in the text before, of later rounds those in the text of that round."""


def mend(piece: Piece, *, silenced: Iterable[str] = (), folder: Path | None = None) -> Mended:
    """Return a piece with every mistake mended whose mend is certain; of two that meet, the first is, in each round."""
    silent = tuple(silenced)
    told: list[Finding] = []
    for _ in range(_ROUNDS):
        chosen = _without_overlap(find(piece, silenced=silent, folder=folder))
        if not chosen:
            break
        told += [found.finding for found in chosen]
        splices = [splice for found in chosen for splice in found.mend]
        source = piece.source
        piece = Piece(Source(Spliced(source.text, splices).text, source.name, source.encoding, source.mark))
    return Mended(piece.source.text, tuple(told))


def _without_overlap(found: tuple[Found, ...]) -> list[Found]:
    taken: list[tuple[int, int]] = []
    chosen = []
    for each in found:
        spans = [_bounds(splice) for splice in each.mend]
        if spans and not any(a < end and start < b for a, b in spans for start, end in taken):
            taken += spans
            chosen.append(each)
    return chosen


def _bounds(splice: Splice) -> tuple[int, int]:
    """Return a splice's place, one sign wider where it only puts something in: two of those may not meet either."""
    start, end = splice.span
    return (start, end) if end > start else (start - 1, start + 1)
