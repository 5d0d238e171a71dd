"""The style sheets of a tree."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.markup.tree import Element, Tree, own_text
from verse_tray.style.sheets import Sheet, sheet_of


def style_elements(tree: Tree) -> Iterator[Element]:
    """Yield the style elements of a tree in its order; what stands in a template is no part of the page."""
    stack = tree.root.children[::-1]
    while stack:
        node = stack.pop()
        if type(node) is Element:
            if node.name == "style":
                yield node
            elif node.name != "template":
                stack += node.children[::-1]


def sheets_in(tree: Tree) -> list[Sheet]:
    """Return the style sheets of a tree that browsers read, in its order."""
    found = []
    for element in style_elements(tree):
        sheet = sheet_of(own_text(element), element.attributes.get("type", ""), element.attributes.get("media", ""))
        if sheet is not None:
            found.append(sheet)
    return found
