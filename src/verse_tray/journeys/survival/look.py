"""The look: declarations that won and still do, presentational attributes, named rules."""

from __future__ import annotations

from collections import Counter

from verse_tray.journeys.survival.counts import Count
from verse_tray.piece.view import View
from verse_tray.style.sheets import StyleRule

_PRESENTATIONAL = (
    "align", "background", "bgcolor", "border", "cellpadding", "cellspacing", "color", "face", "height", "hspace",
    "size", "valign", "vspace", "width",
)  # fmt: skip
"""Attributes that the standard maps to style (HTML standard, 15, "presentational hints")."""


def count_look(written: View, after: View) -> Count:
    """Count what the author's styles did and still do; a declaration counts once for each element it reaches."""
    kept = total = 0
    before, now = written.cascade.winners, after.cascade.winners
    for key, winners in before.items():
        total += len(winners)
        found = now.get(key)
        if found is None or key not in after.by_key:
            continue
        kept += len(winners) if found == winners else sum(found.get(place) == won for place, won in winners.items())
    for element in written.elements:
        if not element.attributes or element.namespace != "html":
            continue
        for name in _PRESENTATIONAL:
            if name in element.attributes:
                total += 1
                still = after.by_key.get(element.key)
                kept += still is not None and still.attributes.get(name) == element.attributes[name]
    # named rules, and rules whose selectors could not be matched, count once whatever they reach
    alone = Counter(_named(written)) + Counter(map(_title, written.cascade.skipped))
    present = Counter(_named(after)) + Counter(_title(rule) for sheet in after.sheets for rule in sheet.rules)
    return Count(kept + (alone & present).total(), total + alone.total())


def _named(view: View) -> list[str]:
    return [named.name for sheet in view.sheets for named in sheet.named]


def _title(rule: StyleRule) -> str:
    return f"{rule.condition} {rule.selectors}"
