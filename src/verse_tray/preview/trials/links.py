"""Where the links of a published piece lead."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.journeys.journey import Journey
from verse_tray.model.findings import Finding, Severity
from verse_tray.preview.pages.described import place_of, text_of
from verse_tray.preview.trials.result import Link


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
