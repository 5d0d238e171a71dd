"""A piece as written: read once, looked at by every editor's journey."""

from __future__ import annotations

from functools import cached_property

from verse_tray.journeys.view import View
from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.parse import Parsed, parse_fragment
from verse_tray.markup.tree import Element
from verse_tray.model.reading import Source
from verse_tray.model.spans import Span


class Piece:
    """What the author wrote."""

    def __init__(self, source: Source) -> None:
        self.source = source
        """Its text."""
        self._attributes: dict[int, dict[str, AttributeSpan]] = {}

    @cached_property
    def parsed(self) -> Parsed:
        """Its tree, as a browser builds it where a piece is put into a page. Never edited: journeys clone it."""
        return parse_fragment(self.source.text)

    @cached_property
    def written_view(self) -> View:
        """Its tree made ready for counting what survives."""
        return View(self.parsed.tree)

    def attributes(self, key: int) -> dict[str, AttributeSpan]:
        """Return the places of an element's attributes by folded name; none for one without a start tag."""
        found = self._attributes.get(key)
        if found is None:
            tag = self.parsed.places.span(key)
            found = {} if tag is None else attribute_spans(self.source.text, tag)
            self._attributes[key] = found
        return found

    def outer_span(self, element: Element) -> Span | None:
        """Return the place of an element of any clone of the tree, contents and end tag included."""
        places, ends = self.parsed.places, self.parsed.end_spans
        own = places.span(element.key)
        if own is None:
            return None
        if (end := ends.get(element.key)) is not None:
            return Span(own.start, end.end)
        last = own.end
        stack = [element]
        while stack:
            for child in stack.pop().children:
                inner = places.span(child.key)
                last = max(last, inner.end) if inner else last
                if type(child) is Element:
                    closing = ends.get(child.key)
                    last = max(last, closing.end) if closing else last
                    stack.append(child)
        return Span(own.start, last)
