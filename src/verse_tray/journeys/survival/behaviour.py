"""What a piece does: scripts, event handlers, forms and controls, frames."""

from __future__ import annotations

from verse_tray.editors.lists import is_event_handler
from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.tree import Element, own_text
from verse_tray.piece.view import View

_DOERS = frozenset("button details dialog form iframe input script select summary textarea".split())


def count_behaviour(written: View, after: View, sandbox: tuple[str, ...] | None = None) -> Count:
    """Count the elements that do something and the event handlers that still stand as they were.

    Args:
        written: The written tree.
        after: The published tree.
        sandbox: Tokens of the sandboxed frame in which the page shows the piece; None when it stands in the page.
    """
    kept = total = 0
    for element in written.elements:
        now = after.by_key.get(element.key)
        muted = now is not None and sandbox is not None and bool(muted_by(now, sandbox))
        if element.name in _DOERS:
            total += 1
            kept += now is not None and now.name == element.name and _same_source(element, now) and not muted
        for name, value in element.attributes.items():
            if is_event_handler(name):
                total += 1
                kept += now is not None and now.attributes.get(name) == value and not muted
    return Count(kept, total)


def muted_by(element: Element, sandbox: tuple[str, ...]) -> str:
    """Return the sandbox token that an element misses to do its work; empty when it misses none."""
    if element.name == "script" or any(map(is_event_handler, element.attributes)):
        return "" if "allow-scripts" in sandbox else "allow-scripts"
    if element.name == "form":
        return "" if "allow-forms" in sandbox else "allow-forms"
    return ""


def _same_source(element: Element, now: Element) -> bool:
    for name in ("src", "srcdoc", "type"):
        if element.attributes.get(name) != now.attributes.get(name):
            return False
    return element.name != "script" or own_text(element) == own_text(now)
