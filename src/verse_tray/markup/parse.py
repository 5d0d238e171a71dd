"""Markup to trees as browsers build them. Lexbor builds the trees; places are worked out when somebody asks."""

from __future__ import annotations

import re
from functools import cached_property
from typing import Literal

from selectolax.lexbor import LexborHTMLParser

from verse_tray.markup import numbering, parser_limits
from verse_tray.markup.end_tags import EndTags, ReadingNote, ignored_tags, place_end_tags
from verse_tray.markup.from_parser import build
from verse_tray.markup.names import HTML
from verse_tray.markup.places import Places, read_places
from verse_tray.markup.scan import scan
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tokens import Token
from verse_tray.markup.tree import Tree
from verse_tray.model.gc_pause import collection_paused
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_FOREIGN = lazy("<(?:svg|math)", re.IGNORECASE)
_LONG = 40_000  # signs
_WITHOUT_EVENTS = 1  # LexborDocumentOptions.WO_EVENTS


class Parsed:
    """What a text turned out to be."""

    def __init__(self, text: str, context: str, *, bounded: bool = False) -> None:
        """Parse ``text`` in place of the contents of the element ``context``, or as a document if that is empty.

        A ``bounded`` text is known to keep to the limits of reading, because it was written from a tree that did.
        """
        self.text = text
        """The text that was parsed."""
        self._context = context
        self._bounded = bounded
        self._left_out: frozenset[int] = frozenset()
        self.cap_notes: list[ReadingNote] = []
        """Limits of reading that the text went beyond."""
        if not bounded and parser_limits.may_exceed(text):
            self._left_out, capped = parser_limits.apply(text, self.tokens)
            self.cap_notes = [ReadingNote(kind, span) for kind, span in capped]
        self._readable = numbering.without(text, self.tokens, self._left_out) if self._left_out else text
        self._count = 0

    @cached_property
    def tree(self) -> Tree:
        """Its tree; keys count up from 1 in tree order."""
        with collection_paused():
            root, order = build(_lexbor(self._readable, self._context), document=not self._context)
            self._count = len(order)
        return Tree(root, order)

    def take_tree(self) -> Tree:
        """Hand the tree over to somebody who will edit it; it is built anew when it is asked for again."""
        tree = self.tree
        del self.tree
        return tree

    @cached_property
    def tokens(self) -> list[Token]:
        """The tokens of the text."""
        return scan(self.text, self._context or "body")

    def forget_tokens(self) -> None:
        """Let the tokens go; they are read again when somebody asks for them."""
        self.__dict__.pop("tokens", None)

    @cached_property
    def places(self) -> Places:
        """Where the nodes of the tree stand."""
        serialised = _lexbor(self._readable, self._context).html or ""
        attempts: tuple[Literal["exact", "partial"], ...] = ("exact", "partial")
        if (self._bounded or len(self.text) > _LONG) and parser_limits.piles_up(self.tokens):
            attempts = ("partial",)  # no two marked ones are alike: all of the pile is made anew, not three of each
        if numbering.can_mark(serialised) and numbering.can_mark(self.text):
            for attempt in attempts:
                marked = numbering.mark(self.text, self.tokens, self._left_out, formatting=attempt == "exact")
                parser = _lexbor(marked, self._context)
                if numbering.unmark(parser.html or "") == serialised:
                    places = read_places(parser, self.text, self.tokens, attempt, document=not self._context)
                    if len(places) == (self._count or len(self.tree.nodes())):
                        return places
        return Places([], [], "none")

    @cached_property
    def _ends(self) -> EndTags:
        return place_end_tags(self.tree, self.places, self.tokens, self.text)

    @property
    def end_spans(self) -> dict[int, Span]:
        """Place of each element's end tag, by key; elements whose end tag was left out are missing."""
        return self._ends.spans

    @cached_property
    def notes(self) -> tuple[ReadingNote, ...]:
        """What reading left out or could not tell, in the order of the source."""
        found = [*self.cap_notes]
        if self.places.exactness != "none":
            marked_all = self.places.exactness == "exact"
            found += ignored_tags(self.tokens, self._ends.placed, self._left_out, marked_all=marked_all)
        if self.places.exactness != "exact":
            found.append(ReadingNote("no-positions", None))
        return tuple(sorted(found, key=lambda note: note.span or Span(0, 0)))


def parse_fragment(text: str, context: str = "body", *, bounded: bool = False) -> Parsed:
    """Parse a fragment as if it were set as the contents of an HTML element of the name ``context``.

    A ``bounded`` text is known to keep to the limits of reading.
    """
    return Parsed(text, context, bounded=bounded)


def parse_document(text: str) -> Parsed:
    """Parse a whole document (HTML standard, 13.2), with scripting off."""
    return Parsed(text, "")


def browser_serialisation(text: str, context: str = "body") -> str:
    """Return the parser's own serialisation of a fragment: what a browser makes of the text, without places.

    The text has to be within the limits of reading (:mod:`verse_tray.markup.parser_limits`).
    """
    parser = _lexbor(text, context)
    if _FOREIGN.search(text):  # Lexbor writes the text of foreign elements such as svg's style unescaped
        return serialise(Tree(*build(parser, document=not context))).markup
    return parser.html or ""


def is_read_as(text: str, tree: Tree, markup: str) -> bool:
    """Tell whether browsers read ``text`` as ``tree``, whose serialisation is ``markup``, namespaces and all.

    The text has to be within the limits of reading.
    """
    parser = _lexbor(text, "body")
    elements = tree.elements()
    if not _FOREIGN.search(text) and all(element.namespace == HTML for element in elements):
        return (parser.html or "") == markup
    read = Tree(*build(parser, document=False))
    own = [(element.namespace, element.name) for element in elements]
    return serialise(read).markup == markup and [(each.namespace, each.name) for each in read.elements()] == own


def _lexbor(text: str, context: str) -> LexborHTMLParser:
    if context:
        return LexborHTMLParser(text, is_fragment=True, fragment_tag=context, options=_WITHOUT_EVENTS)
    return LexborHTMLParser(text, options=_WITHOUT_EVENTS)
