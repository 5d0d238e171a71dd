"""Elements of a page told to the author: where they stand in the file, and what readers see of them."""

from __future__ import annotations

from verse_tray.journeys.journey import Journey
from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Element, Node, Text

_MOST_TEXT = 60


def text_of(element: Element) -> str:
    """Return what readers see of an element, in a few words."""
    words: list[str] = []
    stack: list[Node] = element.children[::-1]
    while stack and len(words) < 30:
        node = stack.pop()
        if type(node) is Text:
            words += node.data.split()
        elif type(node) is Element and node.name not in INVISIBLE:
            words += [f"[{node.attributes.get('alt') or node.name}]"] if node.name in ("img", "svg") else []
            stack += node.children[::-1]
    text = " ".join(words) or element.attributes.get("value", "") or element.attributes.get("aria-label", "")
    return text if len(text) <= _MOST_TEXT else text[: _MOST_TEXT - 1] + "…"


def place_of(journey: Journey, key: int) -> tuple[int | None, int | None]:
    """Return line and column of a node in the author's file; None for one that the editor added."""
    span = journey.piece.parsed.places.span(key) if key > 0 else None
    return (None, None) if span is None else journey.piece.source.place(span.start)
