"""What every step is given."""

from __future__ import annotations

from collections.abc import Callable

from verse_tray.editors.rules import Rules
from verse_tray.journeys.pen import Pen
from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Comment, Element, Node, Text, Tree


class State:
    """A tree under the pen, and the rules to follow."""

    def __init__(self, tree: Tree, piece: Piece, rules: Rules, stage: str) -> None:
        self.tree = tree
        """The tree."""
        self.rules = rules
        """The editor's lists; its whole ``save`` record is ``rules.save``."""
        self.pen = Pen(tree, piece, stage)
        """The only way to edit the tree."""
        self._nodes: list[Node] | None = None
        self._elements: list[Element] | None = None

    @property
    def nodes(self) -> list[Node]:
        """Every node in tree order."""
        if self._nodes is None:
            self._nodes = self.tree.nodes()
        return self._nodes

    @property
    def elements(self) -> list[Element]:
        """Every element in tree order."""
        if self._elements is None:
            self._elements = [node for node in self.nodes if type(node) is Element]
        return self._elements

    @property
    def comments(self) -> list[Comment]:
        """Every comment, instruction and doctype in tree order."""
        return [node for node in self.nodes if type(node) is Comment]

    def run(self, step: Callable[[State], None]) -> None:
        """Run a step and carry out what it decided.

        Raises:
            ContractError: the step broke the contract of the engine.
        """
        step(self)
        if self.pen.settle():
            self._nodes = self._elements = None


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
