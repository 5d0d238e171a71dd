"""Grey boxes in the place of what some editors do not show."""

from __future__ import annotations

from verse_tray.journeys.notices import STAND_IN_ELEMENTS
from verse_tray.markup.tree import Element, Node, Text, Tree


def put_boxes(tree: Tree) -> None:
    """Put a labelled box in the place of each frame, script and the like; the tree is edited in place."""
    stack: list[Element] = [tree.root]
    while stack:
        parent = stack.pop()
        children: list[Node] = []
        for child in parent.children:
            if type(child) is Element and child.name in STAND_IN_ELEMENTS:
                child = Element("span", attributes={"class": "tray-box"}, children=[Text(f"<{child.name}>")])
            elif type(child) is Element:
                stack.append(child)
            children.append(child)
        parent.children[:] = children
