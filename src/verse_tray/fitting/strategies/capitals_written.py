"""Capitals that a style makes, written as such."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.serialise import escape_text
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Text
from verse_tray.model.patterns import lazy

NAME = "capitals-written"
SENTENCE = "Text that a style shows in capitals, or in small letters, was written so."
_CASED = {"uppercase": str.upper, "lowercase": str.lower}
_OWN_CASE = lazy(r"(?:tr|az|lt|el|nl|hy)(?:-|$)", re.IGNORECASE)
"""Languages in which browsers capitalise otherwise (CSS Text, 2.1.1)."""


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the text of elements that lose such a style, as browsers show it."""
    for element in draft.elements:
        case = _CASED.get(draft.look(element).get("text-transform", ""))
        if case is None or not draft.loses(element, "text-transform"):
            continue
        if any(_OWN_CASE.match(each.attributes.get("lang", "")) for each in (element, *draft.subject.around(element))):
            continue
        for text in _texts(draft, element):
            span = draft.subject.own_span(text)
            new = case(text.data)
            if span is not None and new != text.data:
                yield Splice(span, escape_text(new))


def _texts(draft: Draft, element: Element) -> Iterator[Text]:
    """Yield the texts of an element that no element within it gives another case."""
    stack = list(element.children)
    while stack:
        child = stack.pop()
        if isinstance(child, Text):
            yield child
        elif isinstance(child, Element) and "text-transform" not in draft.look(child):
            stack += child.children
