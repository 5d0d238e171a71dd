"""The only way in which a step edits a tree: every edit bears the changes that tell of it."""

from __future__ import annotations

from collections.abc import Sequence
from sys import intern

from msgspec import Struct, structs

from verse_tray.markup.serialise import end_tag, start_tag
from verse_tray.markup.tree import Element, Fate, Node, Text, Tree, are_equal
from verse_tray.model.errors import ContractError
from verse_tray.model.findings import Change, Location, Severity
from verse_tray.model.spans import Span
from verse_tray.piece.locations import AttributeLocation, NodeLocation, TextLocation
from verse_tray.piece.piece import Piece
from verse_tray.piece.source_map import SourceMap


class Edit(Struct, frozen=True):
    """One edit, as it has to be made in the text as well."""

    node: Node
    """The node that was edited."""
    kind: Fate | str
    """A fate, or ``attribute``, ``rename``, ``escape``, ``front``, ``children``."""
    changes: tuple[Change, ...]
    """The changes that tell of it; one or more."""
    attribute: str = ""
    """Name of the attribute."""
    value: str | None = None
    """The attribute's new value, None when it was taken away; or the element's new name."""
    nodes: tuple[Node, ...] = ()
    """What stands in its place; for ``children`` what the element holds now."""
    taken: tuple[Node, ...] = ()
    """Nodes that became one with it."""
    raw: bool = False
    """Whether that is the text of an element such as ``style``, where nothing is escaped."""
    inner: bool = False
    """Whether the node itself was put in by an earlier edit, and is written with that."""


class Edits:
    """Edits a tree, and keeps what it did and the changes that were reported with it."""

    def __init__(self, tree: Tree, piece: Piece, source_map: SourceMap | None, stage: str) -> None:
        self._tree = tree
        self._piece = piece
        self._source_map = source_map
        self._log: list[Edit] = []
        self._changes: dict[int, Change] = {}
        self.stage = stage
        """Name of the stage."""
        self.added: dict[int, Node] = {}
        """Nodes that were put in, by their ``id``."""

    @property
    def log(self) -> Sequence[Edit]:
        """The edits so far, in order."""
        return self._log

    @property
    def changes(self) -> tuple[Change, ...]:
        """The changes reported with them, in order, each once."""
        return tuple(self._changes.values())

    def change(self, rule: str, message: str, severity: Severity, node: Node) -> Change:
        """Make a change about a node, to be handed to an edit."""
        return self._change(rule, message, severity, NodeLocation(self._piece, node.key))

    def text_change(self, rule: str, message: str, severity: Severity, text: Text, part: Span) -> Change:
        """Make a change about a part of a text (offsets in its data)."""
        return self._change(rule, message, severity, TextLocation(self._piece, text.key, text.data, part))

    def attribute_change(
        self, rule: str, message: str, severity: Severity, element: Element, name: str, part: Span | None = None
    ) -> Change:
        """Make a change about an attribute, or about a ``part`` of its value (offsets in the decoded value)."""
        value = element.attributes[name] if part else ""
        return self._change(rule, message, severity, AttributeLocation(self._piece, element.key, name, value, part))

    def _change(self, rule: str, message: str, severity: Severity, location: Location) -> Change:
        return Change(rule, self.stage, intern(message), severity, location)  # thousands may say the same

    def drop(self, node: Node, change: Change, *, into: Element | None = None) -> None:
        """Take a node away with its contents; ``into`` is what it became one with, if readers miss nothing."""
        self._fate(Edit(node, "drop", (change,)))
        if into is not None:
            self._tree.merged[node.key] = into.key

    def unwrap(self, element: Element, change: Change) -> None:
        """Take an element away and leave its contents."""
        self._fate(Edit(element, "unwrap", (change,)))

    def clear(self, element: Element, change: Change) -> None:
        """Take an element's contents away.

        Raises:
            ContractError: it holds nothing.
        """
        there = [child for child in element.children if not child.fate]
        if not there:
            raise ContractError(f"<{element.name}> holds nothing that could be taken away")
        for child in there:
            self._fate(Edit(child, "drop", (change,)))

    def escape(self, element: Element, change: Change, *, bare: bool = False) -> None:
        """Turn an element's tags, as typed or ``bare`` without attributes, into visible text and leave its contents."""
        start = end = None
        if self._source_map is not None:
            start, end = self._source_map.span(element), self._source_map.end_span(element)
        typed = self._source_map.text if self._source_map else ""
        opening = Text(typed[start.start : start.end] if start else start_tag(element))
        closing = Text(typed[end.start : end.end] if end else "" if start else end_tag(element))
        if bare:
            opening, closing = Text(f"<{element.name}>"), Text(f"</{element.name}>")
        tags = (opening, closing) if closing.data else (opening,)
        nodes = [opening, *element.children, *tags[1:]]
        self._fate(Edit(element, "escape", (change,), nodes=tags), nodes)

    def replace(self, node: Node, nodes: list[Node], changes: list[Change], *, raw: bool = False) -> None:
        """Put other nodes in the place of one and of its contents; ``raw`` for the text of ``style`` and the like.

        Raises:
            ContractError: no change is reported, or an equal node stands there afterwards.
        """
        if len(nodes) == 1 and are_equal(node, nodes[0]):
            raise ContractError("an equal node in its place would change nothing")
        self._fate(Edit(node, "replace", tuple(changes), nodes=tuple(nodes), raw=raw), nodes)

    def move_to_front(self, element: Element, change: Change) -> None:
        """Move an element to the front of the piece."""
        self._note(Edit(element, "front", (change,)))
        self._tree.move_to_front(element)

    def _fate(self, edit: Edit, replacement: list[Node] | None = None) -> None:
        if edit.node.fate:
            raise ContractError("this node's fate is decided already")
        self._note(edit)
        for node in edit.nodes:
            self._add(node)
        fate: Fate = "replace" if replacement is not None else edit.kind  # type: ignore[assignment]
        self._tree.set_fate(edit.node, fate, replacement)

    def set_attribute(self, element: Element, name: str, value: str | None, changes: list[Change]) -> None:
        """Give an attribute another value, or take it away with None.

        Raises:
            ContractError: the attribute is so already, or no change is reported.
        """
        if element.attributes.get(name) == value:
            raise ContractError(f"the attribute {name} of <{element.name}> would not change")
        self._note(Edit(element, "attribute", tuple(changes), name, value))
        self._tree.set_attribute(element, name, value)

    def rename(self, element: Element, name: str, change: Change) -> None:
        """Give an element another name."""
        if element.name == name:
            raise ContractError(f"<{name}> would not change")
        self._note(Edit(element, "rename", (change,), value=name))
        self._tree.rename(element, name)

    def rearrange(self, parent: Element, children: list[Node], changes: list[Change]) -> None:
        """Give an element other children; only where the stage writes anew.

        Raises:
            ContractError: they are the same as before, or no change is reported.
        """
        if list(map(id, children)) == list(map(id, parent.children)):
            raise ContractError("an element's children would not change")
        self._rearrange(Edit(parent, "children", tuple(changes), nodes=tuple(children)))

    def _rearrange(self, edit: Edit) -> None:
        assert isinstance(edit.node, Element)
        self._note(edit)
        self._tree.set_children(edit.node, list(edit.nodes))

    def merge(self, parent: Element, merges: list[tuple[Element, Element, Change]]) -> None:
        """Make children of an element one with the child before them; only where the stage writes anew.

        Args:
            parent: The element.
            merges: What takes in, what is taken in, and what is said of that; in the order of the children.
        """
        gone = {id(second) for _, second, _ in merges}
        changes = [change for _, _, change in merges]
        self.rearrange(parent, [child for child in parent.children if id(child) not in gone], changes)
        grouped: dict[int, tuple[Element, list[Node], list[Element], list[Change]]] = {}
        for first, second, change in merges:
            _, children, taken, told = grouped.setdefault(id(first), (first, list(first.children), [], []))
            children += second.children
            taken.append(second)
            told.append(change)
            self._tree.merged[second.key] = first.key
        for first, children, taken, told in grouped.values():
            self._rearrange(Edit(first, "children", tuple(told), nodes=tuple(children), taken=tuple(taken)))

    def _note(self, edit: Edit) -> None:
        if not edit.changes:
            raise ContractError("an edit needs a change")
        self._changes.update((id(change), change) for change in edit.changes)
        self._log.append(structs.replace(edit, inner=True) if id(edit.node) in self.added else edit)

    def _add(self, node: Node) -> None:
        """Remember that a node was put in, and all that is in it."""
        stack = [node]
        while stack:
            each = stack.pop()
            self.added[id(each)] = each
            if type(each) is Element:
                stack += each.children
