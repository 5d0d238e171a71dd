"""Empty elements that draw something, an icon say, with something in them that keeps them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import VOID
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Text

NAME = "held-empties"
SENTENCE = "Empty elements that draw something got something to hold, since the editor takes empty ones away."
_HELD = ("<!-- -->", "&nbsp;", "&#8203;")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a comment, or a space without words, in each empty element that goes although its kind is kept."""
    for element in draft.elements:
        inner = draft.inner(element)
        if inner is None or not _is_empty(element) or element.name in VOID or draft.kept(element) is not None:
            continue
        if not element.attributes or not draft.is_lost(element) or not draft.probe.keeps(element.name):
            continue
        held = next((each for each in _HELD if draft.probe.keeps(element.name, "", each)), "")
        if held:
            yield Splice(inner, held)


def _is_empty(element: Element) -> bool:
    return all(isinstance(child, Text) and not child.data.strip() for child in element.children)
