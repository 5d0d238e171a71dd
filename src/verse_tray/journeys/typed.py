"""A text as it was typed or stored, with the places of the nodes that are being edited."""

from __future__ import annotations

from collections.abc import Callable

from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.parse import Parsed
from verse_tray.markup.tree import Element, Node
from verse_tray.model.spans import Span


class Typed:
    """A parsed text, and which of its nodes a node of an edited tree was."""

    def __init__(self, parsed: Parsed, number: Callable[[Node], int]) -> None:
        self.text = parsed.text
        """The text."""
        self.parsed = parsed
        """Its parsed form."""
        self.number = number
        """Returns the key that a node of the edited tree has in ``parsed``; 0 for what is not in the text."""
        self._attributes: dict[int, dict[str, AttributeSpan]] = {}

    def span(self, node: Node) -> Span | None:
        """Return the place of a start tag, a text or a comment."""
        return self.parsed.places.span(self.number(node))

    def end_span(self, node: Node) -> Span | None:
        """Return the place of an element's end tag; None when it has none."""
        return self.parsed.end_spans.get(self.number(node))

    def attributes(self, number: int) -> dict[str, AttributeSpan]:
        """Return the places of an element's attributes by folded name; none for one without a start tag."""
        found = self._attributes.get(number)
        if found is None:
            tag = self.parsed.places.span(number)
            found = {} if tag is None else attribute_spans(self.text, tag)
            self._attributes[number] = found
        return found

    def outer_span(self, element: Element) -> Span | None:
        """Return the place of an element, contents and end tag included."""
        own = self.span(element)
        if own is None:
            return None
        if (end := self.end_span(element)) is not None:
            return Span(own.start, end.end)
        last = own.end
        stack = [element]
        while stack:
            for child in stack.pop().children:
                inner = self.span(child)
                last = max(last, inner.end) if inner else last
                if type(child) is Element:
                    closing = self.end_span(child)
                    last = max(last, closing.end) if closing else last
                    stack.append(child)
        return Span(own.start, last)

    def starts(self, nodes: list[Node]) -> dict[int, Node]:
        """Return the node that begins at each offset of the text, as far as it is among ``nodes``."""
        places, number = self.parsed.places, self.number
        starts = ((places.start(number(node)), node) for node in nodes)
        return {start: node for start, node in starts if start >= 0}
