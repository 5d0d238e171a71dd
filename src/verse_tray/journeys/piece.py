"""A piece as written: read once, looked at by every editor's journey."""

from __future__ import annotations

from functools import cached_property

from verse_tray.journeys.view import View
from verse_tray.markup.parse import Parsed, parse_fragment
from verse_tray.markup.tree import Element
from verse_tray.model.reading import Source
from verse_tray.model.spans import Span


class Piece:
    """What the author wrote."""

    def __init__(self, source: Source) -> None:
        self.source = source
        """Its text."""

    @cached_property
    def parsed(self) -> Parsed:
        """Its tree, as a browser builds it where a piece is put into a page. Never edited: journeys clone it."""
        return parse_fragment(self.source.text)

    @cached_property
    def elements(self) -> list[Element]:
        """Its elements in tree order."""
        return self.parsed.tree.elements()

    def outer_span(self, element: Element) -> Span | None:
        """Return the place of an element of any clone of the tree, contents and end tag included."""
        if element.start < 0:
            return None
        ends = self.parsed.end_spans
        end = ends.get(element.key)
        if end is not None:
            return Span(element.start, end.end)
        last = element.end
        stack = [element]
        while stack:
            for child in stack.pop().children:
                last = max(last, child.end)
                if type(child) is Element:
                    closing = ends.get(child.key)
                    last = max(last, closing.end) if closing else last
                    stack.append(child)
        return Span(element.start, last)

    @cached_property
    def written_view(self) -> View:
        """Its tree made ready for counting what survives."""
        return View(self.parsed.tree)
