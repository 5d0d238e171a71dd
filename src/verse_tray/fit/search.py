"""The search for the strategies that help: all that have something to do, then fewer, as long as nothing is lost."""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from typing import NamedTuple

from msgspec import Struct

from verse_tray.editors.load import Editor
from verse_tray.fit.judge import Judge, Judged
from verse_tray.fit.table import LAST, STRATEGIES, Strategy
from verse_tray.fit.trips import Trips
from verse_tray.model.findings import Verdict
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.piece import Piece

_ROUNDS = 3
_AT_REST = 0.02  # what may be given up for a piece that another fitting leaves as it is
_WORTH = 0.004  # of the whole likeness: less is no reason to rewrite an author's text


class Used(Struct, frozen=True):
    """A strategy that was used."""

    name: str
    """Its name."""
    sentence: str
    """What it did."""
    won: float
    """How much of the likeness is lost without it, 0 to 1."""
    size: int
    """By how many signs it made the text longer."""


class Fitted(Struct, frozen=True):
    """A piece, fitted to an editor."""

    before: Judged
    """The author's text, and what readers get of it."""
    after: Judged
    """The fitted one; the author's own where nothing helps."""
    used: tuple[Used, ...]
    """What was done, in order."""

    @property
    def changed(self) -> bool:
        """Whether it was rewritten at all."""
        return self.after.text != self.before.text

    @property
    def verdict(self) -> Verdict:
        """What readers get of the author's piece when the fitted one is pasted."""
        after = self.after
        if not self.changed or after.journey.verdict is Verdict.BROKEN:
            return after.journey.verdict
        return (
            Verdict.DAMAGED if after.comparison.harmed or after.journey.survival.behaviour.lost else Verdict.REWRITTEN
        )


def fit(piece: Piece, editor: Editor, strategies: Sequence[Strategy] = STRATEGIES) -> Fitted:
    """Rewrite a piece so that readers of an editor's page get more of it.

    Args:
        piece: The piece.
        editor: The editor.
        strategies: The strategies that may be used, in their order.
    """
    with collection_paused():
        trips = Trips(piece.source, editor)
        judge = Judge(trips, piece.source.text)
        before = best = judge.judge(piece.source.text)
        if before.journey.refused:  # too large: no strategy makes a piece small enough
            return Fitted(before, before, ())
        used: list[Used] = []
        for _ in range(_ROUNDS):  # what one round has written can be a reason for another
            found, active = _searched(judge, best, strategies)
            if not active:
                break
            used += [_used(judge, best.text, active, each, found) for each in active]
            best = _cleaned(judge, found)
        for _ in range(_ROUNDS if best is not before else 0):  # until fitting it again would change nothing
            itself = Judge(trips, best.text)
            found, active = _searched(itself, itself.judge(best.text), strategies)
            again = judge.judge(_cleaned(itself, found).text)
            if again.text == best.text or again.share < max(before.share, best.share - _AT_REST):
                break
            best = again
    return Fitted(before, best, tuple(_summed(used)))


def _summed(used: Sequence[Used]) -> Iterator[Used]:
    """Yield each strategy once, with what it did in all rounds."""
    for name in dict.fromkeys(each.name for each in used):
        same = [each for each in used if each.name == name]
        yield Used(name, same[0].sentence, sum(each.won for each in same), sum(each.size for each in same))


def _cleaned(judge: Judge, best: Judged) -> Judged:
    """Return a fitted piece without what the editor takes away in any case, where readers lose nothing by that."""
    for _ in range(_ROUNDS):
        found = judge.judge(judge.trips.applied(best.text, LAST))
        if found.text == best.text or found.share < best.share:
            break
        best = found
    return best


def _searched(judge: Judge, base: Judged, strategies: Sequence[Strategy]) -> tuple[Judged, list[Strategy]]:
    """Return the best that can be made of a text, and the strategies for it: all, then fewer."""
    if base.share > 1 - _WORTH:
        return base, []
    best, active = _written(judge, base.text, strategies)
    while active:
        trials = [_without(judge, base.text, strategies, {each}) for each in active]
        taken = [each for each in trials if _is_as_good(each, best, active)]
        if not taken:
            break
        spare = {one for one, trial in zip(active, trials, strict=True) if trial in taken}
        first, found = max(taken, key=_rank), _without(judge, base.text, strategies, spare)
        if not _is_as_good(found, first.best, active):  # most often nobody misses any of them
            found = first
        best, active, strategies = found.best, found.active, found.left
    return (best, active) if best.share >= base.share + _WORTH else (base, [])


class _Trial(NamedTuple):
    """What comes of a text without some of the strategies."""

    left: Sequence[Strategy]
    """The strategies that may be used."""
    best: Judged
    """The text as these leave it."""
    active: list[Strategy]
    """Those that have done something; what those left out stood in the way of may have its turn."""


def _without(judge: Judge, text: str, strategies: Sequence[Strategy], spare: Container[Strategy]) -> _Trial:
    left = [each for each in strategies if each not in spare]
    return _Trial(left, *_written(judge, text, left))


def _is_as_good(trial: _Trial, best: Judged, active: Sequence[Strategy]) -> bool:
    """Tell whether readers lose nothing by a trial, with fewer strategies; others in their stead have to win more."""
    if all(each in active for each in trial.active):
        return trial.best.share >= best.share - _WORTH / 4
    return trial.best.share > best.share + _WORTH / 4


def _rank(trial: _Trial) -> tuple[float, int]:
    """Return what is best: the likeness, and of those as good the shortest text."""
    return round(trial.best.share, 3), -len(trial.best.text)


def _written(judge: Judge, text: str, strategies: Sequence[Strategy]) -> tuple[Judged, list[Strategy]]:
    """Return a text as the strategies leave it, and those that have done something, each behind those before it."""
    active = []
    for each in strategies:
        new = judge.trips.applied(text, each)
        if new != text:
            text = new
            active.append(each)
    return judge.judge(text), active


def _used(judge: Judge, base: str, active: Sequence[Strategy], one: Strategy, best: Judged) -> Used:
    without = _written(judge, base, [each for each in active if each is not one])[0]
    return Used(one.name, one.sentence, best.share - without.share, len(best.text) - len(without.text))
