"""Mending what can be mended with certainty."""

from __future__ import annotations

from bisect import bisect_left, insort
from collections.abc import Iterable
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from verse_tray.checks.find import Found, find
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.findings import Finding
from verse_tray.piece.piece import Piece

_ROUNDS = 5  # a mend can bring another mistake to light: an address that only now is one


class Mended(Struct, frozen=True):
    """A piece, mended."""

    text: str
    """The text afterwards."""
    mended: tuple[Finding, ...]
    """What was mended, with its place in the text before; without one for what only other mends brought to light."""


def mend(piece: Piece, *, silenced: Iterable[str] = (), folder: Path | None = None) -> Mended:
    """Return a piece with every mistake mended whose mend is certain; of two that meet, the first is, in each round."""
    silent = tuple(silenced)
    told: list[Finding] = []
    waiting: list[Finding] = []  # of the first round, behind one that it meets
    for number in range(_ROUNDS):
        found = [each for each in find(piece, silenced=silent, folder=folder) if each.mend]
        chosen = _without_overlap(found)
        if not chosen:
            break
        findings = [each.finding for each in chosen]
        if number:
            findings = [_as_told(each, waiting) for each in findings]
        else:
            waiting = [each.finding for each in found if each not in chosen]
        told += findings
        splices = [splice for each in chosen for splice in each.mend]
        piece = Piece(piece.source.edited(Spliced(piece.source.text, splices).text))
    return Mended(piece.source.text, tuple(told))


def _as_told(finding: Finding, waiting: list[Finding]) -> Finding:
    """Return a mistake of a later round with its place in the text before; without one where it was not there yet."""
    same = next((each for each in waiting if (each.rule, each.message) == (finding.rule, finding.message)), None)
    if same is None:
        return replace(finding, line=None, column=None)
    waiting.remove(same)
    return same


def _without_overlap(found: list[Found]) -> list[Found]:
    taken: list[tuple[int, int]] = []  # in order, and apart from one another: only neighbours can meet
    chosen = []
    for each in found:
        spans = [_bounds(splice) for splice in each.mend]
        if spans and not any(_meets(span, taken) for span in spans):
            for span in spans:
                insort(taken, span)
            chosen.append(each)
    return chosen


def _meets(span: tuple[int, int], taken: list[tuple[int, int]]) -> bool:
    at = bisect_left(taken, span)
    return any(span[0] < end and start < span[1] for start, end in taken[max(0, at - 1) : at + 1])


def _bounds(splice: Splice) -> tuple[int, int]:
    """Return a splice's place, one sign wider where it only puts something in: two of those may not meet either."""
    start, end = splice.span
    return (start, end) if end > start else (start - 1, start + 1)
