"""A text as it was typed or stored, with the places of the nodes that are being edited."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property

from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.end_tags import ReadingNote
from verse_tray.markup.parse import Parsed
from verse_tray.markup.splice import Spliced
from verse_tray.markup.tree import Element, Node
from verse_tray.model.spans import Span


class SourceMap:
    """A text, and where the nodes of an edited tree stand in it."""

    def __init__(self, parsed: Parsed, number: Callable[[Node], int]) -> None:
        self.text = parsed.text
        """The text."""
        self.parsed = parsed
        """Its parsed form."""
        self.number = number
        """Returns the key that a node of the edited tree has in ``parsed``; 0 for what is not in the text."""
        self._attributes: dict[int, dict[str, AttributeSpan]] = {}

    @property
    def exact(self) -> bool:
        """Whether every node that stands in the text has its place, and nothing of the text was left out."""
        return self.parsed.places.exactness == "exact" and not self.parsed.cap_notes

    def span_of(self, number: int) -> Span | None:
        """Return the place of the start tag, text or comment with that number."""
        return self.parsed.places.span(number)

    def span(self, node: Node) -> Span | None:
        """Return the place of a start tag, a text or a comment."""
        return self.span_of(self.number(node))

    def end_span(self, node: Node) -> Span | None:
        """Return the place of an element's end tag; None when it has none."""
        return self.parsed.end_spans.get(self.number(node))

    def attributes(self, number: int) -> dict[str, AttributeSpan]:
        """Return the places of an element's attributes by folded name; none for one without a start tag."""
        found = self._attributes.get(number)
        if found is None:
            tag = self.span_of(number)
            found = {} if tag is None else attribute_spans(self.text, tag)
            self._attributes[number] = found
        return found

    def ignored(self) -> Iterator[tuple[str, ReadingNote]]:
        """Yield the tags that browsers make nothing of, each with a note of its place in this text."""
        for note in self.parsed.notes:
            if note.kind in ("tag-ignored", "tag-unfinished") and note.span is not None:
                yield self.parsed.text[note.span.start : note.span.end], note

    def outer_span(self, element: Element) -> Span | None:
        """Return the place of an element, contents and end tag included."""
        own = self.span(element)
        if own is None:
            return None
        if (end := self.end_span(element)) is not None:
            return Span(own.start, end.end)
        return Span(own.start, self._last_end(element))

    def _last_end(self, element: Element) -> int:
        """Return where the last of an element ends."""
        return self._last_ends(element)[id(element)]

    def _last_ends(self, top: Element) -> dict[int, int]:
        """Return where the last of an element, and of each in it, ends, by identity; 0 where nothing has a place."""
        elements = [top]
        for element in elements:
            elements += [child for child in element.children if type(child) is Element]
        lasts: dict[int, int] = {}
        for element in reversed(elements):  # what is inside first
            spans = [self.span(element), self.end_span(element)]
            spans += [self.span(child) for child in element.children if type(child) is not Element]
            inner = [lasts[id(child)] for child in element.children if type(child) is Element]
            lasts[id(element)] = max((*inner, *(span.end for span in spans if span is not None)), default=0)
        return lasts

    def starts(self, nodes: list[Node]) -> dict[int, Node]:
        """Return the node that begins at each offset of the text, as far as it is among ``nodes``."""
        spans = ((self.span(node), node) for node in nodes)
        return {span.start: node for span, node in spans if span is not None}


class OwnSourceMap(SourceMap):
    """A text with the places of the nodes of its own tree, which is never edited, and of trees with the same keys."""

    def __init__(self, parsed: Parsed) -> None:
        super().__init__(parsed, lambda node: node.key)

    @cached_property
    def _known(self) -> dict[int, int]:
        return self._last_ends(self.parsed.tree.root)

    def _last_end(self, element: Element) -> int:
        last = self._known.get(id(element))
        return super()._last_end(element) if last is None else last


class SplicedSourceMap(SourceMap):
    """A text that was spliced: what stood in the text before stands where the splices have moved it."""

    def __init__(self, before: SourceMap, spliced: Spliced, added: dict[int, Node], moved: dict[int, int]) -> None:
        """Go on from ``before``.

        ``added`` are the nodes that were put in, by their ``id``; ``moved`` tells by number how far a node that was
        moved to the front has gone.
        """
        super().__init__(before.parsed, lambda node: 0 if id(node) in added else before.number(node))
        self.text = spliced.text
        self._before = before
        self._spliced = spliced
        self._far = moved

    @cached_property
    def exact(self) -> bool:
        """Whether every node has its place."""
        return self._before.exact

    def _moved(self, span: Span | None, number: int = 0) -> Span | None:
        if span is None:
            return None
        if (shift := self._far.get(number)) is not None:
            return Span(span.start + shift, span.end + shift)
        new = self._spliced.new_offset
        return Span(new(span.start), new(span.end))

    def span_of(self, number: int) -> Span | None:
        """Return the place of the start tag, text or comment with that number."""
        return self._moved(self._before.span_of(number), number)

    def end_span(self, node: Node) -> Span | None:
        """Return the place of an element's end tag; None when it has none."""
        number = self.number(node)
        return self._moved(self._before.end_span(node), number) if number else None

    def ignored(self) -> Iterator[tuple[str, ReadingNote]]:
        """Yield the tags that browsers make nothing of and that are still there."""
        for text, note in self._before.ignored():
            span = self._moved(note.span)
            if span is not None and self.text[span.start : span.end] == text:
                yield text, ReadingNote(note.kind, span)
