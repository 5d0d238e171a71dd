"""Survival: what of a piece readers still get, counted by the identity of nodes."""

from __future__ import annotations

from verse_tray.journeys.survival.behaviour import count_behaviour
from verse_tray.journeys.survival.counts import Count, Survival
from verse_tray.journeys.survival.links import count_links
from verse_tray.journeys.survival.look import count_look
from verse_tray.journeys.survival.structure import count_structure
from verse_tray.journeys.survival.text import count_text
from verse_tray.piece.view import View


def survival(written: View, after: View, sandbox: tuple[str, ...] | None = None) -> Survival:
    """Compare the written tree with the published one.

    Args:
        written: The written tree, looked at once for all editors.
        after: The tree that readers get.
        sandbox: Tokens of the sandboxed frame in which the page shows it; None when it stands in the page.
    """
    text, leaked = count_text(written, after)
    look = count_look(written, after)
    return Survival(
        text=text,
        leaked=leaked,
        structure=count_structure(written, after),
        look=look,
        behaviour=count_behaviour(written, after, sandbox),
        links=count_links(written, after),
    )


__all__ = ["Count", "Survival", "survival"]
