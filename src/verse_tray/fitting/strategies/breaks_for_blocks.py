"""Breaks around words that stood in a line of their own by their style."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import TEXT_LEVEL
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Node, Text

NAME = "breaks-for-blocks"
SENTENCE = "Words that a style put into a line of their own are parted by breaks."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a break in front of and behind each, where something else stands in the line."""
    for element in draft.elements:
        if element.name not in TEXT_LEVEL or draft.look(element).get("display") != "block":
            continue
        parent = draft.subject.parents.get(element.key)
        outer = draft.trip.piece.source_map.outer_span(element)
        if parent is None or outer is None or not draft.loses(element, "display"):
            continue
        at = next(number for number, child in enumerate(parent.children) if child.key == element.key)
        if _stands(parent.children[:at][::-1]):
            yield draft.put(outer.start, "<br>")
        if _stands(parent.children[at + 1 :]):
            yield draft.put(outer.end, "<br>")


def _stands(nodes: list[Node]) -> bool:
    """Tell whether the next thing in a line is text or an element within it."""
    for node in nodes:
        if isinstance(node, Text) and not node.data.strip():
            continue
        return isinstance(node, Text) or (isinstance(node, Element) and node.name in TEXT_LEVEL)
    return False
