"""Markup to trees as browsers build them, with the place of every node.

Lexbor builds the trees; :mod:`verse_tray.markup.marks` says how the places get through it.
"""

from __future__ import annotations

import gc
from functools import cached_property
from typing import Literal

from selectolax.lexbor import LexborHTMLParser

from verse_tray.markup import caps, marks
from verse_tray.markup.build import build
from verse_tray.markup.ends import EndTags, ReadingNote, ignored_tags, place_end_tags
from verse_tray.markup.scan import Token, scan
from verse_tray.markup.tree import Tree
from verse_tray.model.spans import Span

_WITHOUT_EVENTS = 1  # LexborDocumentOptions.WO_EVENTS


class Parsed:
    """What a text turned out to be."""

    def __init__(self, text: str, tree: Tree, tokens: list[Token], left_out: frozenset[int]) -> None:
        self.text = text
        """The text that was parsed."""
        self.tree = tree
        """Its tree."""
        self._tokens = tokens
        self._left_out = left_out
        self.cap_notes: list[ReadingNote] = []
        """Limits of reading that the text went beyond."""

    @cached_property
    def _ends(self) -> EndTags:
        if self.tree.positions == "none":
            return EndTags({}, frozenset())
        return place_end_tags(self.tree, self._tokens)

    @property
    def end_spans(self) -> dict[int, Span]:
        """Place of each element's end tag, by key; elements whose end tag was left out are missing."""
        return self._ends.spans

    @cached_property
    def notes(self) -> tuple[ReadingNote, ...]:
        """What reading left out or could not tell, in the order of the source."""
        found = [*self.cap_notes]
        if self.tree.positions != "none":
            found += ignored_tags(self.tree, self._tokens, self._ends.placed, self._left_out)
        if self.tree.positions != "exact":
            found.append(ReadingNote("no-positions", None))
        return tuple(sorted(found, key=lambda note: note.span or Span(0, 0)))


def parse_fragment(text: str, context: str = "body", first_key: int = 1) -> Parsed:
    """Parse a fragment as if it were set as the contents of an HTML element.

    Args:
        text: Markup; line ends as they stand.
        context: Name of that element.
        first_key: Key of the first node.
    """
    return _parse(text, context, first_key)


def parse_document(text: str) -> Parsed:
    """Parse a whole document (HTML standard, 13.2), with scripting off."""
    return _parse(text, "", 1)


def browser_serialisation(text: str, context: str = "body") -> str:
    """Return the parser's own serialisation of a fragment: what a browser makes of the text, without places."""
    return _lexbor(text, context).html or ""


def _lexbor(text: str, context: str) -> LexborHTMLParser:
    if context:
        return LexborHTMLParser(text, is_fragment=True, fragment_tag=context, options=_WITHOUT_EVENTS)
    return LexborHTMLParser(text, options=_WITHOUT_EVENTS)


def _parse(text: str, context: str, first_key: int) -> Parsed:
    enabled = gc.isenabled()
    gc.disable()  # building many nodes at once would set off full collections that find nothing
    try:
        tokens = scan(text, context or "body")
        left_out, capped = caps.apply(text, tokens)
        plain = _lexbor(marks.without(text, tokens, left_out), context)
        serialised = plain.html or ""
        parser, positions = plain, "none"
        if marks.can_mark(serialised) and marks.can_mark(text):
            for attempt in ("exact", "partial"):
                marked = _lexbor(marks.mark(text, tokens, left_out, formatting=attempt == "exact"), context)
                if marks.unmark(marked.html or "") == serialised:
                    parser, positions = marked, attempt
                    break
        root = build(parser, text, tokens if positions != "none" else [], first_key, document=not context)
        known: Literal["exact", "partial", "none"] = positions  # type: ignore[assignment]
        parsed = Parsed(text, Tree(root, known), tokens, left_out)
        parsed.cap_notes = [ReadingNote(kind, span) for kind, span in capped]
        return parsed
    finally:
        if enabled:
            gc.enable()
