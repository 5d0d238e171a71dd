"""Elements."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.journeys.view import View
from verse_tray.markup.tree import Element

_MEANING = (
    "abbr", "alt", "colspan", "datetime", "dir", "headers", "hidden", "kind", "label", "lang", "open", "reversed",
    "rowspan", "scope", "start", "value",
)  # fmt: skip
"""Attributes without which an element says something else."""
_COUNTED_ELSEWHERE = frozenset(("script", "style", "template"))


def count_structure(written: View, after: View) -> Count:
    """Count elements that are still there under their name and with the attributes that carry their meaning.

    A ``span`` without attributes shows nothing by itself, so it counts as kept when it is unwrapped. Scripts and
    style elements are counted as behaviour and look.
    """
    kept = total = 0
    found = after.by_key
    for element in written.elements:
        if element.name in _COUNTED_ELSEWHERE:
            continue
        total += 1
        now = found.get(element.key)
        if now is None:
            kept += element.name == "span" and not element.attributes
        elif now.name == element.name and _same_meaning(element, now):
            kept += 1
    return Count(kept, total)


def _same_meaning(element: Element, now: Element) -> bool:
    before, attributes = element.attributes, now.attributes
    if before == attributes:
        return True
    return all(attributes.get(name) == before[name] for name in _MEANING if name in before)
