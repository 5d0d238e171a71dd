"""What a piece does: scripts, event handlers, forms and controls, frames."""

from __future__ import annotations

from verse_tray.editors.rules import is_event_handler
from verse_tray.journeys.survival.counts import Count
from verse_tray.journeys.view import View
from verse_tray.markup.tree import Element, Text

_DOERS = frozenset("button details dialog form iframe input script select summary textarea".split())


def count_behaviour(written: View, after: View) -> Count:
    """Count the elements that do something and the event handlers that still stand as they were."""
    kept = total = 0
    for element in written.elements:
        now = after.by_key.get(element.key)
        if element.name in _DOERS:
            total += 1
            kept += now is not None and now.name == element.name and _same_source(element, now)
        for name, value in element.attributes.items():
            if is_event_handler(name):
                total += 1
                kept += now is not None and now.attributes.get(name) == value
    return Count(kept, total)


def _same_source(element: Element, now: Element) -> bool:
    for name in ("src", "srcdoc", "type"):
        if element.attributes.get(name) != now.attributes.get(name):
            return False
    return element.name != "script" or _code(element) == _code(now)


def _code(element: Element) -> str:
    return "".join(child.data for child in element.children if isinstance(child, Text))
