"""The verdict table; docs/architecture.md shows the same."""

from __future__ import annotations

from verse_tray.journeys.limits.use import LimitUse
from verse_tray.journeys.survival.counts import Survival
from verse_tray.model.findings import Verdict
from verse_tray.reading.differences import Comparison


def verdict(
    survival: Survival, comparison: Comparison, limits: tuple[LimitUse, ...], *, same_markup: bool, alive: bool
) -> Verdict:
    """Return what becomes of a piece.

    Args:
        survival: What of it survives.
        comparison: What readers see of it, beside what they were to see.
        limits: How much of each limit it uses.
        same_markup: Whether the published markup is the written one, character for character.
        alive: Whether code runs in it that did not where it was written.
    """
    if survival.text.lost or survival.leaked or any(use.exceeded and _ends_it(use) for use in limits):
        return Verdict.BROKEN
    unread = comparison.bounded and survival.look.lost
    if alive or unread or comparison.harmed or survival.behaviour.lost or survival.links.lost:
        return Verdict.DAMAGED
    return Verdict.INTACT if same_markup else Verdict.REWRITTEN


def _ends_it(use: LimitUse) -> bool:
    """Tell whether the piece as a whole is refused or cut at a limit."""
    return use.over == "refuse" or (use.of == "piece" and use.over == "cut")
