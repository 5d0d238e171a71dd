"""Findings of one cause as one line: how often, where first, in which editors."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from verse_tray.model.findings import Finding
from verse_tray.model.patterns import lazy

_OWN = lazy(r"“[^”]*”|\d+(?:[.,]\d+)*")
_PLACES = 4


class Alike(Struct, frozen=True):
    """Findings that say the same of several places."""

    finding: Finding
    """The first of them."""
    editors: tuple[str, ...]
    """The editors that they come from."""
    places: tuple[tuple[int, int], ...]
    """Lines and columns, those of the first included; empty for what has no place."""
    size: int
    """How many they are."""

    @property
    def elsewhere(self) -> str:
        """Where else it is so, in brackets; empty for one that stands alone."""
        if self.size == 1:
            return ""
        others = [f"{line}:{column}" for line, column in self.places[1 : 1 + _PLACES]]
        if not others:
            return f" ({self.size:,} times)"
        rest = self.size - 1 - len(others)
        return f" ({self.size:,} times: also at {', '.join(others)}{f' and {rest:,} more' if rest > 0 else ''})"


def grouped(told: Sequence[tuple[str, Sequence[Finding]]]) -> list[Alike]:
    """Group findings by what they say, numbers and quoted words left out; the gravest and costliest first.

    Args:
        told: Names of editors, each with its findings; the name may be empty.
    """
    found: dict[tuple[str, str, str], dict[tuple[int | None, int | None, str], list[str]]] = {}
    first: dict[tuple[str, str, str], Finding] = {}
    for editor, findings in told:
        for finding in findings:
            key = finding.rule, _OWN.sub("", finding.message), finding.severity.value
            held = first.get(key)
            if held is None or (finding.line or 0, finding.column or 0) < (held.line or 0, held.column or 0):
                first[key] = finding
            place = finding.line, finding.column, "" if finding.line else finding.message
            found.setdefault(key, {}).setdefault(place, []).append(editor)
    groups = [_group(first[key], places) for key, places in found.items()]
    groups.sort(key=_weight)
    return groups


def _group(finding: Finding, places: dict[tuple[int | None, int | None, str], list[str]]) -> Alike:
    names = dict.fromkeys(name for each in places.values() for name in each if name)
    known = sorted((line, column) for line, column, _ in places if line is not None and column is not None)
    return Alike(finding, tuple(names), tuple(known), len(places))


_FIRST = ("reading/tag-unfinished", "markup/text-swallowed")
"""Rules that say that the rest of a piece is not read: the others know only what stands before it."""


def _weight(group: Alike) -> tuple[bool, int, int, int, int, int]:
    finding = group.finding
    return (
        finding.rule not in _FIRST,
        finding.severity.rank,
        -finding.cost,
        -len(group.editors),
        finding.line or 0,
        finding.column or 0,
    )
