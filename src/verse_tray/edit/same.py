"""Whether readers get the same from two texts: the same elements, and the same text once white space has collapsed."""

from __future__ import annotations

import re
from typing import Any

from verse_tray.edit.flow import WHITE, Flow
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Comment, Element, Node, Text, own_text
from verse_tray.model.decoding import Source
from verse_tray.model.patterns import lazy
from verse_tray.piece.piece import Piece
from verse_tray.style.sheets import parse_sheet

_RUN = lazy(rf"[{WHITE}]+")
_SPACE = ("text", " ")


def same_reading(before: Piece, after: str) -> bool:
    """Tell whether a piece and a text read the same: equal trees, and equal text as far as browsers show it.

    Style sheets are compared by their rules, scripts line by line without their indentation, all else sign by sign.
    """
    return before.source.text == after or _shown(before) == _shown(Piece(Source(after)))


def _shown(piece: Piece) -> list[Any]:
    return _Reading(Flow(piece)).read(piece.parsed.tree.root)


class _Reading:
    """What a browser makes of a tree, as a list of events; a space stands where it first shows."""

    def __init__(self, flow: Flow) -> None:
        self.flow = flow
        self.events: list[Any] = []
        self.at_edge = True
        """Whether a space here would begin a line, or follow another space."""
        self.around: list[tuple[bool, int | None]] = []
        """What the two others were around elements that take no room."""
        self.space: int | None = None
        """Where the last event with something to see is a space: its number."""

    def read(self, root: Element) -> list[Any]:
        stack: list[tuple[Node | None, Element, bool]] = [(child, root, False) for child in reversed(root.children)]
        while stack:
            node, parent, verbatim = stack.pop()
            if node is None:  # the end of an element
                self._end(parent)
            elif isinstance(node, Text):
                self._text(node.data, verbatim, self.flow.holds_no_text(parent))
            elif isinstance(node, Comment):
                self.events.append(("comment", node.markup))
            else:
                stack += self._start(node, verbatim)
        self._edge()
        return self.events

    def _start(self, element: Element, verbatim: bool) -> list[tuple[Node | None, Element, bool]]:
        if self.flow.is_block(element) or element.name == "br":
            self._edge()
        self.events.append(("start", element.namespace, element.name, element.attributes))
        if element.namespace == HTML and element.name in ("style", "script"):
            text = own_text(element)
            self.events.append(_rules(text) if element.name == "style" else _lines(text))
            return []
        if (
            element.name != "br"
            and not self.flow.is_block(element)
            and not element.children
            and not self.flow.has_no_box(element)
        ):
            self.at_edge, self.space = False, None  # a picture, or a field
        if self.flow.has_no_box(element):  # what is in it is no part of the lines around it
            self.around.append((self.at_edge, self.space))
            self.at_edge, self.space = True, None
        elif self.flow.is_one_box(element):
            self.around.append((False, None))
            self.at_edge, self.space = True, None
        inner = verbatim or self.flow.keeps_white_space(element)
        return [(None, element, verbatim), *((child, element, inner) for child in reversed(element.children))]

    def _end(self, element: Element) -> None:
        if self.flow.has_no_box(element) or self.flow.is_one_box(element):
            self._edge()
            self.at_edge, self.space = self.around.pop()
        elif self.flow.is_block(element):
            self._edge()
        self.events.append(("end", element.name))

    def _text(self, data: str, verbatim: bool, nowhere: bool) -> None:
        if verbatim:
            self.events.append(("text", data))
            self.at_edge, self.space = False, None
            return
        if nowhere and not data.strip(WHITE):
            return
        for number, word in enumerate(_RUN.split(data)):
            if number and not self.at_edge:
                self.space = len(self.events)
                self.events.append(_SPACE)
                self.at_edge = True
            if word:
                self.events.append(("text", word))
                self.at_edge, self.space = False, None

    def _edge(self) -> None:
        """Begin or end a line: a space just in front of it does not show."""
        if self.space is not None:
            del self.events[self.space]
            self.space = None
        self.at_edge = True


def _rules(text: str) -> Any:
    sheet = parse_sheet(text)
    rules = [
        (
            _tight(rule.selectors),
            _tight(rule.condition),
            [(d.name, _tight(d.value), d.important) for d in rule.declarations],
        )
        for rule in sheet.rules
    ]
    return "rules", rules, [_tight(named.name) for named in sheet.named], re.sub(r"[\s;]+", "", _COMMENT.sub("", text))


def _tight(text: str) -> str:
    """Return a part of a style sheet without the spaces around commas, which mean nothing anywhere."""
    return re.sub(r" *, *", ",", _RUN.sub(" ", text)).strip()


_COMMENT = lazy(r"/\*.*?(?:\*/|\Z)", re.DOTALL)


def _lines(text: str) -> Any:
    lines = [line.strip() for line in text.strip().splitlines()] if "`" not in text else [text.strip()]
    return "lines", lines
