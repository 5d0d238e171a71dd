"""A tree made ready for counting."""

from __future__ import annotations

from functools import cached_property

from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.style.cascade import Cascade, cascade
from verse_tray.style.sheets import Sheet, parse_sheet


class View:
    """A tree, looked at once and counted from several sides."""

    def __init__(self, tree: Tree) -> None:
        self.tree = tree
        """The tree."""
        self.elements: list[Element] = []
        """Its elements in tree order."""
        self.texts: list[tuple[Text, bool]] = []
        """Its texts in tree order, and whether readers see them."""
        self.by_key: dict[int, Element] = {}
        """Its elements by key; those that an editor added are missing."""
        stack: list[tuple[Element, bool]] = [(tree.root, True)]
        while stack:
            parent, visible = stack.pop()
            inner: list[tuple[Element, bool]] = []
            for child in parent.children:
                if type(child) is Element:
                    self.elements.append(child)
                    if child.key:
                        self.by_key[child.key] = child
                    if child.children:
                        inner.append((child, visible and child.name not in INVISIBLE))
                elif type(child) is Text:
                    self.texts.append((child, visible))
            stack.extend(inner[::-1])

    @cached_property
    def sheets(self) -> tuple[Sheet, ...]:
        """Its style sheets."""
        found = []
        for element in self.elements:
            if element.name == "style":
                found.append(parse_sheet("".join(child.data for child in element.children if type(child) is Text)))
        return tuple(found)

    @cached_property
    def cascade(self) -> Cascade:
        """Its winning declarations."""
        return cascade(self.tree, self.elements, self.sheets)
