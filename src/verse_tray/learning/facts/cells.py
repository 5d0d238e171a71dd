"""A text by its cells: which elements begin in each, and where each of its words stands."""

from __future__ import annotations

import re
from itertools import pairwise

from verse_tray.learning.probe.probe import ANCHOR
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Text

WORD = re.compile(r"(?<![A-Za-z])w\d(?!\d)")
Chain = tuple[Element, ...]
"""Elements around something, the outermost first."""


class Cell:
    """What stands between two anchors."""

    def __init__(self, around: Chain = ()) -> None:
        self.around = frozenset(id(each) for each in around)
        """The elements, by ``id``, that were open at its anchor."""
        self.elements: list[tuple[Element, Chain]] = []
        """The elements that begin in it, with those around them."""
        self.words: dict[str, Chain] = {}
        """Its words, with the elements around each."""
        self.text = ""
        """Its text."""
        self.comments: list[str] = []
        """Its comments."""

    def own(self, chain: Chain) -> list[Element]:
        """Return the elements of a chain that were not open at the anchor."""
        return [each for each in chain if id(each) not in self.around]


def read_cells(markup: str) -> dict[int, Cell]:
    """Return the cells of a text by their numbers; what stands before the first is -1."""
    current = Cell()
    cells = {-1: current}
    stack: list[tuple[Element, Chain, int]] = [(parse_fragment(markup).tree.root, (), 0)]
    while stack:
        around, chain, at = stack.pop()
        for index in range(at, len(around.children)):
            child = around.children[index]
            if type(child) is Text:
                found = list(ANCHOR.finditer(child.data))
                bounds = [(0, 0), *(each.span() for each in found), (len(child.data),) * 2]
                for number, (before, here) in enumerate(pairwise(bounds)):
                    part = child.data[before[1] : here[0]]
                    current.text += part
                    for word in WORD.findall(part):
                        current.words.setdefault(word, chain)
                    if number < len(found):
                        current = cells.setdefault(int(found[number][1]), Cell(chain))
            elif type(child) is Element:
                current.elements.append((child, chain))
                stack += [(around, chain, index + 1), (child, (*chain, child), 0)]
                break
            else:
                current.comments.append(child.markup)  # type: ignore[union-attr]
    return cells


def words_in(element: Element, *, deep: bool = True) -> list[str]:
    """Return the words in an element, or those that stand in it directly."""
    found: list[str] = []
    stack = element.children[::-1]
    while stack:
        node = stack.pop()
        if type(node) is Text:
            found += WORD.findall(node.data)
        elif type(node) is Element and deep:
            stack += node.children[::-1]
    return found
