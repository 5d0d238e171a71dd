"""Which elements selectors match, as a script asks for them (DOM standard, "scope-match a selectors string")."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from verse_tray.markup.tree import Element, Tree
from verse_tray.style.matching import prepared
from verse_tray.style.selector_page import selector_page

_MOST_TESTS = 300_000  # selectors held against elements


def selected(tree: Tree, selectors: Iterable[str]) -> dict[str, list[Element]]:
    """Return the elements that each selector list matches, in tree order.

    Lists that are not understood are missing, and, where there are too many of them for a tree, all are.

    Args:
        tree: The tree.
        selectors: The selector lists.
    """
    wanted: list[tuple[str, list[Any]]] = []
    for each in dict.fromkeys(selectors):
        made = prepared(each.strip())
        if made is not None and not any(part.pseudo for part in made):
            wanted.append((each, [part.still for part in made]))
    found: dict[str, list[Element]] = {each: [] for each, _ in wanted}
    if not wanted:
        return found
    tests = 0
    for element, wrapped in selector_page(tree).wrapped():
        tests += len(wanted)
        if tests > _MOST_TESTS:
            return {}
        for each, compiled in wanted:
            if any(selector.test(wrapped) for selector in compiled):
                found[each].append(element)
    return found
