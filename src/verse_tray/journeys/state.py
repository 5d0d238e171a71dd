"""What every step is given."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Lists
from verse_tray.journeys.contract import Watch
from verse_tray.journeys.edits import Edits
from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Comment, Element, Node, Text, Tree
from verse_tray.model.findings import Change
from verse_tray.piece.piece import Piece
from verse_tray.piece.source_map import SourceMap

_RecordT = TypeVar("_RecordT", bound=Filter)


class State:
    """A tree that is being edited, and the rules to follow."""

    def __init__(self, tree: Tree, piece: Piece, source_map: SourceMap | None, lists: Lists, stage: str) -> None:
        self.tree = tree
        """The tree."""
        self.lists = lists
        """The lists of the running stage."""
        self.record = lists.record
        """The stage's record."""
        self.piece = piece
        """The piece."""
        self.source_map = source_map
        """The text that the tree was read from; None when it is the tree's own serialisation."""
        self.edits = Edits(tree, piece, source_map, stage)
        """The only way to edit the tree."""
        self.keys: tuple[str, ...] = ()
        """Keys that are typed at the end of the piece in the visual pane."""
        self.notices: list[Change] = []
        """What the author should know although nothing is edited."""
        self.anew = False
        """Whether a step made it necessary to write everything anew."""
        self.stops = False
        """Whether a step found that nothing comes of the piece; a notice says why."""
        self._nodes: list[Node] | None = None
        self._elements: list[Element] | None = None
        self._watch: Watch | None = None

    def record_as(self, kind: type[_RecordT]) -> _RecordT | None:
        """Return the stage's record if it is of that kind, which only some stages have."""
        return self.record if isinstance(self.record, kind) else None

    @property
    def nodes(self) -> list[Node]:
        """Every node in tree order, without those that go."""
        if self._nodes is None:
            nodes = self.tree.nodes()
            self._nodes = [node for node in nodes if not node.fate] if self.tree.unsettled else nodes
        return self._nodes

    @property
    def elements(self) -> list[Element]:
        """Every element in tree order, without those that go."""
        if self._elements is None:
            self._elements = [node for node in self.nodes if type(node) is Element]
        return self._elements

    @property
    def comments(self) -> list[Comment]:
        """Every comment, instruction and doctype in tree order, without those that go."""
        return [node for node in self.nodes if type(node) is Comment]

    def run(self, name: str, action: Action) -> None:
        """Run a step of that name.

        Raises:
            ContractError: it broke the contract of the engine, and it was watched.
        """
        if Watch.on and self._watch is None:
            self._watch = Watch(self.tree, self.edits)
        before = len(self.edits.log)
        action(self)
        if self._watch is not None:
            self._watch.verify(name)
        if len(self.edits.log) != before:
            self._nodes = self._elements = None

    def settle(self) -> None:
        """Carry out what was decided, for steps that look at parents and children; the last step is followed by one."""
        if self.tree.settle():
            self._nodes = self._elements = None

    def texts(self, inside: frozenset[str] = frozenset()) -> list[tuple[Text, bool]]:
        """Return every text that readers see, and whether an element of one of these names is around it."""
        self.settle()
        found: list[tuple[Text, bool]] = []
        stack: list[tuple[Node, bool]] = [(node, False) for node in reversed(self.tree.root.children)]
        while stack:
            node, within = stack.pop()
            if type(node) is Text:
                found.append((node, within))
            elif type(node) is Element and node.children and node.name not in INVISIBLE:
                deeper = within or node.name in inside
                stack += [(child, deeper) for child in reversed(node.children)]
        return found


Action = Callable[[State], None]
"""What a step does."""


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
