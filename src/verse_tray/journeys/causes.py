"""Which change costs readers what: each difference that they see is charged to the nearest change that can cause it."""

from __future__ import annotations

from collections.abc import Mapping

from verse_tray.model.findings import Change
from verse_tray.piece.locations import key_of
from verse_tray.piece.view import View
from verse_tray.reading.differences import Comparison, Difference

_OF_THE_LOOK = ("elements/", "attributes/", "classes/", "identifiers/", "styles/", "renames/", "pane/", "frames/",
                "scripts/", "characters/", "empties/", "neighbours/", "paragraphs/", "players/")  # fmt: skip
_OF_STYLES = ("style-elements/", "style-prefix/")
_BY_STYLES = frozenset(("look", "box", "layout", "made", "moving"))
"""Kinds of differences that a style element that goes may cause."""


def costs(comparison: Comparison, written: View, changes: tuple[Change, ...]) -> Mapping[int, int]:
    """Return how many differences are charged to each node that was changed, by its key.

    Args:
        comparison: What readers see.
        written: The written tree.
        changes: What the editor changed.
    """
    changed = {key for change in changes if _is_of_the_look(change) and (key := key_of(change))}
    styles = [key for change in changes if change.rule.startswith(_OF_STYLES) and (key := key_of(change))]
    parents = written.parents
    found: dict[int, int] = {}
    for each in comparison.differences:
        if not each.seen and each.kind not in ("moving", "link"):
            continue
        cause = _cause(each, changed, styles, parents)
        if cause:
            found[cause] = found.get(cause, 0) + 1
    return found


def may_cost(change: Change) -> bool:
    """Tell whether a change can cost readers something that they see."""
    return _is_of_the_look(change) or change.rule.startswith(_OF_STYLES)


def _is_of_the_look(change: Change) -> bool:
    return change.rule.startswith(_OF_THE_LOOK) and "see the same" not in change.message


def _cause(each: Difference, changed: set[int], styles: list[int], parents: Mapping[int, int]) -> int:
    key = each.key
    if key in changed:
        return key
    if styles and each.kind in _BY_STYLES:
        return styles[0]
    while key > 0 and key not in changed:
        key = parents.get(key, 0)
    return key
