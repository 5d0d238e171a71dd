"""What a piece does to the page around it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from msgspec import Struct

from verse_tray.markup.tree import Element
from verse_tray.reading.frames import Frame
from verse_tray.style.cascade import match, winners_of
from verse_tray.style.computed import computed, first_style
from verse_tray.style.computed_style import Style
from verse_tray.style.conditions import holds
from verse_tray.style.matching import prepared
from verse_tray.style.selector_page import selector_page
from verse_tray.style.sheets import Sheet

Looks = dict[int, tuple[tuple[str, str], ...]]
"""The values of the elements of a page that are not initial, by the element's key."""


def site_looks(frame: Frame, sheets: Sequence[Sheet], width: int) -> Looks:
    """Return how the elements of a page look when these style sheets of a piece stand in it.

    Args:
        frame: The page, without a piece.
        sheets: The sheets.
        width: Width of the window in CSS pixels.
    """
    return _bare(frame, width) if not sheets else _looks(frame, sheets, width)


@lru_cache(maxsize=64)
def _bare(frame: Frame, width: int) -> Looks:
    return _looks(frame, (), width)


def _looks(frame: Frame, sheets: Sequence[Sheet], width: int) -> Looks:
    elements = frame.tree.elements()
    matched = match(frame.tree, elements, [*frame.sheets, *sheets]).matched
    found: Looks = {}
    stack: list[tuple[Element, Style]] = [(frame.tree.root, first_style(width))]
    while stack:
        parent, around = stack.pop()
        for child in parent.children:
            if type(child) is Element:
                winners = winners_of(matched.get(child.key, ()), child.attributes.get("style", ""), width)
                style = computed(child, around, winners)
                if child is not frame.way[-1]:  # the piece's own place
                    found[child.key] = tuple(sorted((name, str(value)) for name, value in style.said.items()))
                stack.append((child, style))
    return found


class Reach(Struct, frozen=True):
    """A rule of a piece that reaches the page around it."""

    selectors: str
    """Its selectors."""
    names: list[str]
    """The elements of the page that it matches, as a person would call them."""


def rules_that_reach(frame: Frame, sheets: Sequence[Sheet]) -> list[Reach]:
    """Return the rules of a piece that match elements of the page around it, each with what it matches there."""
    found = []
    around = [pair for pair in selector_page(frame.tree).wrapped() if pair[0] is not frame.way[-1]]
    for rule in (rule for sheet in sheets for rule in sheet.rules):
        if all(each.name.startswith("--") for each in rule.declarations) or holds(rule.around, None) is False:
            continue
        selectors = [each.still for each in prepared(rule.selectors) or ()]
        names = [frame.name_of(e.key) for e, wrapped in around if any(each.test(wrapped) for each in selectors)]
        if names:
            found.append(Reach(rule.selectors, list(dict.fromkeys(names))))
    return found
