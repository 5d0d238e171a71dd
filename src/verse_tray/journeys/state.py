"""What every step is given."""

from __future__ import annotations

from collections.abc import Callable

from verse_tray.editors.rules import Rules
from verse_tray.journeys.pen import Pen
from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Comment, Element, Text, Tree


class State:
    """A tree under the pen, and the rules to follow."""

    def __init__(self, tree: Tree, piece: Piece, rules: Rules, stage: str) -> None:
        self.tree = tree
        """The tree."""
        self.rules = rules
        """The editor's lists; its whole ``save`` record is ``rules.save``."""
        self.piece = piece
        """What the author wrote."""
        self.pen = Pen(tree, piece, stage)
        """The only way to edit the tree."""
        self.elements: list[Element] = []
        """Elements in tree order."""
        self.comments: list[Comment] = []
        """Comments, instructions and doctypes in tree order."""
        self._refresh()

    def _refresh(self) -> None:
        elements: list[Element] = []
        comments: list[Comment] = []
        stack = self.tree.root.children[::-1]
        while stack:
            node = stack.pop()
            if type(node) is Element:
                elements.append(node)
                if node.children:
                    stack.extend(node.children[::-1])
            elif type(node) is Comment:
                comments.append(node)
        self.elements, self.comments = elements, comments

    def run(self, step: Callable[[State], None]) -> None:
        """Run a step and carry out what it decided.

        Raises:
            ContractError: the step broke the contract of the engine.
        """
        step(self)
        if self.pen.settle():
            self._refresh()


Step = Callable[[State], None]


def holds_something(element: Element) -> bool:
    """Tell whether readers would miss an element's contents: text, a picture, a frame, a control."""
    stack: list[Element] = [element]
    while stack:
        current = stack.pop()
        if current.name in ("img", "picture", "video", "audio", "iframe", "embed", "object", "input", "button", "svg"):
            return True
        if current.name in INVISIBLE:
            continue
        for child in current.children:
            if type(child) is Text and not child.data.isspace() and child.data:
                return True
            if type(child) is Element:
                stack.append(child)
    return False
