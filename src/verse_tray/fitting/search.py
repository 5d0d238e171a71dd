"""The search for the strategies that help: all that have something to do, then fewer, as long as nothing is lost."""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from typing import NamedTuple

from msgspec import Struct

from verse_tray.fitting.judges import Judges, Together
from verse_tray.fitting.shortened import shortened
from verse_tray.fitting.table import LAST, Strategy

_ROUNDS = 3
_AT_REST = 0.02  # what may be given up for a piece that another fitting leaves as it is
_LARGE = 6_000  # signs of a text from which on a shorter one is searched in its stead
_MISSED = 0.0003  # of the likeness: a strategy that wins less is not missed
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


class Searched(NamedTuple):
    """What a search came to."""

    best: Together
    """The best that can be made of the author's text."""
    used: tuple[Used, ...]
    """What was done to it, in order."""
    whole: str
    """The text as it was before what goes in any case was left out."""


def search(judges: Judges, strategies: Sequence[Strategy]) -> Searched:
    """Return the best that can be made of the author's text.

    Args:
        judges: What is said of a text.
        strategies: The strategies that may be used, in their order.
    """
    text = whole = judges.text
    used: list[Used] = []
    left = strategies
    for _ in range(_ROUNDS):  # what one round has written can be a reason for another
        found = _round(judges, text, left)
        if found is None:
            break
        left = [each for each in left if each not in found.spared]  # nobody has missed those
        used += found.used
        text, whole = _cleaned(judges, found.best).text, found.best.text
    for _ in range(_ROUNDS if text != judges.text else 0):  # until fitting it again would change nothing
        itself = judges.of_another(text)
        found = _round(itself, text, strategies)
        if found is None:
            break
        again = judges.judge(_cleaned(itself, found.best).text)
        least = max(judges.judge(judges.text).share, judges.judge(text).share - _AT_REST)
        if again.text == text or again.share < least:
            break
        text = again.text
    before, best = judges.judge(judges.text), judges.judge(text)
    if sum(each.share for each in best.each) < sum(each.share for each in before.each):
        return Searched(before, (), judges.text)  # worth more, and less alike: the author's own stays
    return Searched(best, tuple(_summed(used)), whole)


def _summed(used: Sequence[Used]) -> Iterator[Used]:
    """Yield each strategy once, with what it did in all rounds."""
    for name in dict.fromkeys(each.name for each in used):
        same = [each for each in used if each.name == name]
        yield Used(name, same[0].sentence, sum(each.won for each in same), sum(each.size for each in same))


def _cleaned(judges: Judges, best: Together) -> Together:
    """Return a fitted piece without what the editor takes away in any case, where readers lose nothing by that."""
    for _ in range(_ROUNDS):
        found = judges.judge(judges.applied(best.text, LAST))
        if found.text == best.text or found.share < best.share:
            break
        best = found
    return best


class _Round(NamedTuple):
    """What one search came to, where it came to something."""

    best: Together
    """The best that can be made of a text."""
    active: list[Strategy]
    """The strategies for it."""
    spared: list[Strategy]
    """Those that were tried, and that nobody misses."""
    used: list[Used]
    """What the ones did."""


def _round(judges: Judges, text: str, strategies: Sequence[Strategy]) -> _Round | None:
    """Search for the strategies that help a text; of a large one, in a shorter one that has all that is in it."""
    counted = any(use.exceeded for each in judges.trips for use in each.draft(text).trip.limits)
    small = shortened(judges.trips[0].draft(text)) if len(text) > _LARGE and not counted else text
    if len(small) > len(text) * 0.8:
        return _searched(judges, text, strategies)
    found = _searched(judges.of_another(small), small, strategies)
    if found is None:
        return None
    best, active = _written(judges, text, found.active)
    if best.share < judges.judge(text).share + _WORTH:
        return _searched(judges, text, strategies)
    return _Round(best, active, found.spared, found.used)


def _searched(judges: Judges, text: str, strategies: Sequence[Strategy]) -> _Round | None:
    """Search for the strategies that help a text: all, then fewer, as long as readers lose nothing."""
    base = judges.judge(text)
    if base.share > 1 - _WORTH:
        return None
    best, active = _written(judges, text, strategies)
    tried = active
    while active:
        trials = [_without(judges, text, strategies, {each}) for each in active]
        taken = [each for each in trials if _is_as_good(each, best, active)]
        if not taken:
            break
        spare = {one for one, trial in zip(active, trials, strict=True) if trial in taken}
        first, found = max(taken, key=_rank), _without(judges, text, strategies, spare)
        if not _is_as_good(found, first.best, active):  # most often nobody misses any of them
            found = first
        best, active, strategies = found.best, found.active, found.left
    if not active or best.share < base.share + _WORTH:
        return None
    used = [_used(judges, text, active, each, best) for each in active]
    return _Round(best, active, [each for each in tried if each not in active], used)


class _Trial(NamedTuple):
    """What comes of a text without some of the strategies."""

    left: Sequence[Strategy]
    """The strategies that may be used."""
    best: Together
    """The text as these leave it."""
    active: list[Strategy]
    """Those that have done something; what those left out stood in the way of may have its turn."""


def _without(judges: Judges, text: str, strategies: Sequence[Strategy], spare: Container[Strategy]) -> _Trial:
    left = [each for each in strategies if each not in spare]
    return _Trial(left, *_written(judges, text, left))


def _is_as_good(trial: _Trial, best: Together, active: Sequence[Strategy]) -> bool:
    """Tell whether readers lose nothing by a trial, with fewer strategies; others in their stead have to win more."""
    if all(each in active for each in trial.active):
        return trial.best.share >= best.share - _MISSED
    return trial.best.share > best.share + _MISSED


def _rank(trial: _Trial) -> tuple[float, int]:
    """Return what is best: the likeness, and of those as good the shortest text."""
    return round(trial.best.share, 4), -len(trial.best.text)


def _written(judges: Judges, text: str, strategies: Sequence[Strategy]) -> tuple[Together, list[Strategy]]:
    """Return a text as the strategies leave it, and those that have done something, each behind those before it."""
    active = []
    for each in strategies:
        new = judges.applied(text, each)
        if new != text:
            text = new
            active.append(each)
    return judges.judge(text), active


def _used(judges: Judges, base: str, active: Sequence[Strategy], one: Strategy, best: Together) -> Used:
    without = _written(judges, base, [each for each in active if each is not one])[0]
    return Used(one.name, one.sentence, best.share - without.share, len(best.text) - len(without.text))
