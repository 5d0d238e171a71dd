"""The only way in which a step edits a tree: every stroke bears the changes it makes."""

from __future__ import annotations

from typing import NamedTuple

from verse_tray.journeys.piece import Piece
from verse_tray.journeys.where import AttributePlace, NodePlace
from verse_tray.markup.serialise import end_tag, start_tag
from verse_tray.markup.tree import Element, Fate, Node, Text, Tree
from verse_tray.model.errors import ContractError
from verse_tray.model.findings import Change, Place, Severity
from verse_tray.model.spans import Span


class Stroke(NamedTuple):
    """One edit, as it has to be made in the text as well."""

    node: Node
    """The node that was edited."""
    fate: Fate
    """What became of it; empty when only an attribute was edited."""
    attribute: str = ""
    """Name of the attribute."""
    value: str | None = None
    """The attribute's new value; None when it was taken away."""
    texts: tuple[str, str] = ("", "")
    """What an escaped element's tags were written as."""


class Pen:
    """Edits a tree, and keeps what it did and the changes that were reported with it."""

    def __init__(self, tree: Tree, piece: Piece, stage: str) -> None:
        self._tree = tree
        self._piece = piece
        self._stage = stage
        self._start = tree.edits
        self._tags_as_text: dict[int, tuple[Text, Text]] = {}
        self.strokes: list[Stroke] = []
        """Edits made with this pen."""
        self.changes: list[Change] = []
        """Changes reported with them."""

    def change(self, rule: str, message: str, severity: Severity, node: Node) -> Change:
        """Make a change about a node, to be handed to a stroke."""
        return self._change(rule, message, severity, NodePlace(self._piece, node.key))

    def attribute_change(
        self, rule: str, message: str, severity: Severity, element: Element, name: str, part: Span | None = None
    ) -> Change:
        """Make a change about an attribute, or about a ``part`` of its value (offsets in the decoded value)."""
        value = element.attributes[name] if part else ""
        return self._change(rule, message, severity, AttributePlace(self._piece, element.key, name, value, part))

    def _change(self, rule: str, message: str, severity: Severity, place: Place) -> Change:
        return Change(rule, self._stage, message, severity, place)

    def drop(self, node: Node, change: Change) -> None:
        """Take a node away with its contents."""
        self._fate(Stroke(node, "drop"), change)

    def unwrap(self, element: Element, change: Change) -> None:
        """Take an element away and leave its contents."""
        self._fate(Stroke(element, "unwrap"), change)

    def escape(self, element: Element, change: Change) -> None:
        """Turn an element's tags, as typed, into visible text and leave its contents."""
        parsed = self._piece.parsed
        start, end = parsed.places.span(element.key), parsed.end_spans.get(element.key)
        opening = self._piece.source.slice(start) if start else start_tag(element)
        closing = self._piece.source.slice(end) if end else "" if start else end_tag(element)
        self._tags_as_text[id(element)] = (Text(opening), Text(closing))
        self._fate(Stroke(element, "escape", texts=(opening, closing)), change)

    def _fate(self, stroke: Stroke, change: Change) -> None:
        if stroke.node.fate:
            raise ContractError("this node's fate is decided already")
        self.strokes.append(stroke)
        self.changes.append(change)
        self._tree.set_fate(stroke.node, stroke.fate)

    def set_attribute(self, element: Element, name: str, value: str | None, changes: list[Change]) -> None:
        """Give an attribute another value, or take it away with None.

        Raises:
            ContractError: the attribute is so already, or no change is reported.
        """
        if element.attributes.get(name) == value:
            raise ContractError(f"the attribute {name} of <{element.name}> would not change")
        if not changes:
            raise ContractError("an edit needs a change")
        self.strokes.append(Stroke(element, "", name, value))
        self.changes += changes
        self._tree.set_attribute(element, name, value)

    def settle(self) -> bool:
        """End a step: carry out what it decided, and tell whether nodes came or went.

        Raises:
            ContractError: the tree was edited behind this pen's back.
        """
        if self._tree.edits - self._start != len(self.strokes):
            raise ContractError("a step edited the tree without reporting a change")
        return self._tree.settle(self._tags_as_text)
