"""The nodes of a piece as their author typed them, as far as that is known; else as browsers write them."""

from __future__ import annotations

import re

from verse_tray.edit.flow import WHITE, Flow
from verse_tray.markup.attributes import attribute_spans
from verse_tray.markup.names import HTML
from verse_tray.markup.references import decode
from verse_tray.markup.serialise import end_tag, escape_text, holds_raw_text, serialise, start_tag
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece

BREAK = "\ufdee"
"""Stands where white space collapses while a line is put together: a code point that no text uses (Unicode, 23.7)."""
_MADE_UP = frozenset(("tbody", "colgroup"))
"""Elements that the parser makes up, and makes up again when they are not written."""


class TypedMarkup:
    """A piece's markup, node by node."""

    def __init__(self, piece: Piece) -> None:
        self._piece = piece
        self._source = piece.source

    def start(self, element: Element) -> str:
        """Return a start tag in one line; empty for an element that the parser made up and will make up again."""
        span = self._piece.parsed.places.span(element.key)
        if span is None:
            return "" if element.name in _MADE_UP else start_tag(element)
        typed = self._source.slice(span)
        name, *attributes = self.parts(typed)
        return " ".join([name, *attributes]) + self.closing(typed)

    def parts(self, tag: str) -> list[str]:
        """Return the beginning of a start tag and its attributes, as typed."""
        name = re.match(r"<[^\s/>]+", tag)
        assert name is not None
        return [
            name[0],
            *(tag[each.whole.start : each.whole.end] for each in attribute_spans(tag, Span(0, len(tag))).values()),
        ]

    def closing(self, tag: str) -> str:
        """Return how a start tag ends: ``>``, or with the slash that was typed."""
        if not tag.endswith("/>"):
            return ">"
        values = (each.value for each in attribute_spans(tag, Span(0, len(tag))).values())
        unquoted = any(value is not None and value.end == len(tag) - 1 for value in values)
        return ">" if unquoted else ("/>" if tag[-3:-2] != " " else " />")

    def end(self, element: Element) -> str:
        """Return an end tag; empty where there is none to be."""
        span = self._piece.parsed.places.span(element.key)
        if span is None and element.name in _MADE_UP:
            return ""
        ended = span is not None and self.closing(self._source.slice(span)) != ">"
        return "" if ended and element.namespace != HTML and not element.children else end_tag(element)

    def node(self, node: Node) -> str:
        """Return a text or a comment."""
        if isinstance(node, Element):
            return self.whole(node)
        span = self._piece.parsed.places.span(node.key)
        if isinstance(node, Text):
            if span is not None and decode(typed := self._source.slice(span), attribute=False)[0] == node.data:
                return typed.replace("\r\n", "\n")
            return escape_text(node.data)
        return node.markup if span is None else self._source.slice(span)

    def inner(self, element: Element) -> str:
        """Return the text of a style element or a script."""
        return "".join(child.data for child in element.children if isinstance(child, Text))

    def whole(self, element: Element) -> str:
        """Return an element with all that is in it, white space and all."""
        span = self._piece.source_map.outer_span(element) if self._piece.source_map.exact else None
        if span is not None and self._piece.parsed.end_spans.get(element.key) is not None:
            return self._source.slice(span).replace("\r\n", "\n")
        root = Element("", children=[element])
        return serialise(Tree(root)).markup

    def inline(self, node: Node, flow: Flow) -> str:
        """Return what stands within a line, with a break mark for each run of white space that collapses."""
        pieces: list[str] = []
        stack: list[Node | str] = [node]
        while stack:
            each = stack.pop()
            if isinstance(each, str):
                pieces.append(each)
            elif isinstance(each, Text):
                pieces.append(re.sub(f"[{WHITE}]+", BREAK, self.node(each)))
            elif isinstance(each, Element):
                if flow.keeps_white_space(each) or holds_raw_text(each):
                    pieces.append(self.whole(each))
                else:
                    pieces.append(self.start(each) + (BREAK if each.name == "br" else ""))
                    stack.append(self.end(each))
                    stack += each.children[::-1]
            else:
                pieces.append(self.node(each))
        return "".join(pieces)
