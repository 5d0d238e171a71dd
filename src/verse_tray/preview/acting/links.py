"""Where the links of a published piece lead."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.journeys.engine import Journey
from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Finding, Severity
from verse_tray.preview.acting.acted import Link

_MOST_TEXT = 60


def links_of(journey: Journey) -> Iterator[Link]:
    """Yield the links that readers get, in tree order."""
    for element in journey.published.elements():
        if element.name not in ("a", "area") or "href" not in element.attributes:
            continue
        target = element.attributes.get("target", "").strip()
        window = "new" if target.lower() == "_blank" else target if target and not target.startswith("_") else "same"
        line, column = place_of(journey, element.key)
        yield Link(line, column, text_of(element), element.attributes["href"], window)


def dead_links(journey: Journey) -> Iterator[Finding]:
    """Yield links to places in the piece that are not there."""
    elements = journey.published.elements()
    places = {value for each in elements for name in ("id", "name") if (value := each.attributes.get(name))}
    for link in links_of(journey):
        place = link.address[1:] if link.address.startswith("#") else ""
        if place and place not in places and place.lower() != "top":
            message = f"The link to {link.address} leads nowhere: nothing in the published piece has this identifier."
            yield Finding("act/link-nowhere", "publish", message, link.line, link.column, Severity.WARNING)


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
