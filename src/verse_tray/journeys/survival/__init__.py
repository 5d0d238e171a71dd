"""Survival: what of a piece readers still get."""

from __future__ import annotations

from verse_tray.journeys.survival.behaviour import count_behaviour
from verse_tray.journeys.survival.counts import Count, Survival
from verse_tray.journeys.survival.links import count_links
from verse_tray.journeys.survival.look import count_look
from verse_tray.journeys.survival.structure import count_structure
from verse_tray.piece.view import View
from verse_tray.reading.differences import Comparison


def survival(written: View, after: View, comparison: Comparison, sandbox: tuple[str, ...] | None = None) -> Survival:
    """Count what of a piece survives.

    Args:
        written: The written tree, looked at once for all editors.
        after: The tree that readers get.
        comparison: What readers see of the two.
        sandbox: Tokens of the sandboxed frame in which the page shows it; None when it stands in the page.
    """
    return Survival(
        text=Count(comparison.kept, comparison.of),
        leaked=comparison.leaked,
        structure=count_structure(written, after),
        look=count_look(written, after),
        behaviour=count_behaviour(written, after, sandbox),
        links=count_links(written, after),
        alike=comparison.alike,
    )


__all__ = ["Count", "Survival", "survival"]
