"""Elements."""

from __future__ import annotations

from verse_tray.journeys.survival.counts import Count
from verse_tray.markup.tree import Element
from verse_tray.markup.vocabulary import BOOLEAN
from verse_tray.piece.view import View

_MEANING = (
    "abbr", "alt", "colspan", "datetime", "dir", "headers", "hidden", "kind", "label", "lang", "open", "reversed",
    "rowspan", "scope", "start", "value",
)  # fmt: skip
"""Attributes without which an element says something else."""
_COUNTED_ELSEWHERE = frozenset(("script", "style", "template"))


_EQUIVALENT = (
    {"b", "strong"}, {"i", "em"}, {"s", "strike", "del"}, {"u", "ins"}, {"tt", "code"}, {"acronym", "abbr"},
    {"center", "div"}, {"font", "span"}, {"big", "span"}, {"div", "section", "article"},
)  # fmt: skip
"""Names that readers see no difference between."""


def are_equivalent(one: str, other: str) -> bool:
    """Tell whether readers see no difference between two elements."""
    return one == other or any(one in names and other in names for names in _EQUIVALENT)


def count_structure(written: View, after: View) -> Count:
    """Count elements that are still there with the attributes that carry their meaning, under their name or an equal.

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
        if now is None and element.key in after.tree.merged:
            kept += after.tree.merged[element.key] in found
        elif now is None:
            kept += element.name == "span" and not element.attributes
        elif are_equivalent(element.name, now.name) and _same_meaning(element, now):
            kept += 1
    return Count(kept, total)


def _same_meaning(element: Element, now: Element) -> bool:
    before, attributes = element.attributes, now.attributes
    if before == attributes:
        return True
    there = [name for name in _MEANING if name in before]
    return all(name in attributes if name in BOOLEAN else attributes.get(name) == before[name] for name in there)
