"""How far a learned profile is to be trusted, as a number that was held against many editors."""

from __future__ import annotations

from verse_tray.learning.choose import is_idle
from verse_tray.learning.learned import Learned
from verse_tray.learning.probe.probe import size_of
from verse_tray.learning.probe.questions import questions


def unasked(learned: Learned) -> float:
    """Return the share of what can be asked and would tell something that was not asked, by its size."""
    facts = next(iter(learned.facts.values()))
    sent = {cell.strip(" ") for case in next(iter(learned.cases.values())) for cell in case.sent_cells.values()}
    useful = [each for each in questions() if not each.small and not is_idle(each, facts)]
    left = [each for each in useful if each.markup not in sent]
    return sum(map(size_of, left)) / max(1, sum(map(size_of, useful)))


def trust(learned: Learned) -> int:
    """Return how many of 100 pieces it is expected to predict right, to the letter."""
    return 0
