"""The only way in which a step edits a tree: every stroke bears the changes it makes."""

from __future__ import annotations

import re

from verse_tray.journeys.piece import Piece
from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.serialise import end_tag, escape_attribute, escape_text, start_tag
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import NOWHERE, Element, Node, Text, Tree
from verse_tray.model.errors import ContractError
from verse_tray.model.findings import Change, Severity
from verse_tray.model.spans import Span

_SPACE_BEFORE = re.compile(r"[\t\n\f\r ]*\Z")


class Pen:
    """Edits a tree, keeps the changes, and keeps the splices that make the same edits in the text."""

    def __init__(self, tree: Tree, piece: Piece, stage: str) -> None:
        self._tree = tree
        self._piece = piece
        self._stage = stage
        self._start = tree.edits
        self._tags_as_text: dict[int, tuple[Text, Text]] = {}
        self._attribute_spans: dict[int, dict[str, AttributeSpan]] = {}
        self._places: set[int] = set()
        self.strokes = 0
        """Edits made with this pen."""
        self.changes: list[Change] = []
        """Changes reported with them."""
        self.splices: list[Splice] = []
        """The same edits in the text of the author."""
        self.spliceable = tree.positions == "exact"
        """Whether every stroke so far stands in the text, so that the splices say it all."""

    def change(self, rule: str, message: str, severity: Severity, span: Span | None) -> Change:
        """Make a change of this pen's stage, to be handed to a stroke."""
        return Change(rule, self._stage, message, severity, span)

    def drop(self, node: Node, change: Change) -> None:
        """Take a node away with its contents."""
        span = self._piece.outer_span(node) if type(node) is Element else node.span
        self._stroke([change])
        self._splice(node.span, span, "")
        self._tree.set_fate(node, "drop")

    def unwrap(self, element: Element, change: Change) -> None:
        """Take an element away and leave its contents."""
        self._stroke([change])
        self._splice(element.span, element.span, "")
        if end := self._piece.parsed.end_spans.get(element.key):
            self.splices.append(Splice(end, ""))
        self._tree.set_fate(element, "unwrap")

    def escape(self, element: Element, change: Change) -> None:
        """Turn an element's tags into visible text and leave its contents."""
        self._stroke([change])
        end = self._piece.parsed.end_spans.get(element.key)
        opening = Text(self._typed(element.span) or start_tag(element), 0, element.start, element.end)
        closing = Text(
            self._typed(end) or (end_tag(element) if element.start < 0 else ""), 0, *(end or (NOWHERE, NOWHERE))
        )
        self._splice(element.span, element.span, escape_text(opening.data))
        if end:
            self.splices.append(Splice(end, escape_text(closing.data)))
        self._tags_as_text[id(element)] = (opening, closing)
        self._tree.set_fate(element, "escape")

    def set_attribute(self, element: Element, name: str, value: str | None, changes: list[Change]) -> None:
        """Give an attribute another value, or take it away with None.

        Raises:
            ContractError: the attribute is so already, or no change is reported.
        """
        if element.attributes.get(name) == value:
            raise ContractError(f"the attribute {name} of <{element.name}> would not change")
        self._stroke(changes)
        place = self._attribute(element, name)
        if place is None:
            self.spliceable = False
        elif value is None:
            assert element.span is not None
            space = _SPACE_BEFORE.search(self._piece.source.text[element.span.start : place.whole.start])
            start = place.whole.start - (len(space.group()) if space else 0)
            self.splices.append(Splice(Span(start, place.whole.end), ""))
        else:
            typed = self._typed(place.name)
            self.splices.append(Splice(place.whole, f'{typed}="{escape_attribute(value)}"'))
        self._tree.set_attribute(element, name, value)

    def set_text(self, text: Text, data: str, changes: list[Change], *, raw: bool) -> None:
        """Give a text other data; ``raw`` says that it stands where text is written unescaped.

        Raises:
            ContractError: the text is so already, or no change is reported.
        """
        if text.data == data:
            raise ContractError("the text would not change")
        self._stroke(changes)
        self._tree.set_text(text, data)
        self._splice(text.span, text.span, data if raw else escape_text(data))

    def attribute_span(self, element: Element, name: str) -> Span | None:
        """Return the place of an attribute, or that of its tag, or None."""
        place = self._attribute(element, name)
        return place.whole if place else element.span

    def value_span(self, element: Element, name: str) -> Span | None:
        """Return the place of an attribute's value as typed, without its quotes."""
        place = self._attribute(element, name)
        return place.value if place else None

    def settle(self) -> bool:
        """End a step: carry out what it decided, and tell whether nodes came or went.

        Raises:
            ContractError: the tree was edited behind this pen's back.
        """
        if self._tree.edits - self._start != self.strokes:
            raise ContractError("a step edited the tree without reporting a change")
        return self._tree.settle(self._tags_as_text)

    def _stroke(self, changes: list[Change]) -> None:
        if not changes:
            raise ContractError("an edit needs a change")
        self.strokes += 1
        self.changes += changes

    def _splice(self, origin: Span | None, span: Span | None, text: str) -> None:
        """Note a splice; ``origin`` tells clones of one tag apart, which have but one place in the text."""
        if origin is None or span is None or origin.start in self._places:
            self.spliceable = False
            return
        self._places.add(origin.start)
        self.splices.append(Splice(span, text))

    def _typed(self, span: Span | None) -> str:
        return self._piece.source.slice(span) if span else ""

    def _attribute(self, element: Element, name: str) -> AttributeSpan | None:
        if element.span is None:
            return None
        spans = self._attribute_spans.get(element.span.start)
        if spans is None:
            spans = attribute_spans(self._piece.source.text, element.span)
            self._attribute_spans[element.span.start] = spans
        return spans.get(name.lower())
