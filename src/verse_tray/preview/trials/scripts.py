"""The scripts of a published piece: whether they run at all, and where one cannot be read."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from verse_tray.journeys.journey import Journey
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.tree import Element, Text
from verse_tray.model.findings import Finding, Severity
from verse_tray.preview.browser.copies import copy_in
from verse_tray.preview.pages.described import place_of
from verse_tray.script.faults import script_fault
from verse_tray.script.kinds import script_kind


def _runs(element: Element) -> bool:
    if element.name == "script":
        return bool(script_kind(element.attributes))
    return any(name.startswith("on") and value for name, value in element.attributes.items())


def without_scripts(journey: Journey) -> Iterator[Finding]:
    """Yield that no script of the piece runs, where the editor keeps none or its box allows none."""
    wrote = [element for element in journey.piece.written_view.elements if _runs(element)]
    kept = [element for element in journey.published.elements() if _runs(element)]
    box = journey.editor.profile.box
    if not wrote or (kept and (box is None or "allow-scripts" in box.sandbox)):
        return
    why = "its box allows no scripts" if kept else "it keeps neither scripts nor handlers"
    message = (
        f"Nothing that the piece's scripts do happens in this editor: {why}. Write what readers need as text and links."
    )
    place = place_of(journey, wrote[0].key)
    yield Finding("act/scripts-off", "publish", message, *place, Severity.WARNING)


def faulty_script(journey: Journey) -> tuple[int | None, int | None]:
    """Return line and column, in the author's file, of the first fault of a script that browsers cannot read."""
    piece = journey.piece
    for element in journey.published.elements():
        if element.name == "script" and _runs(element):
            text = element.children[0] if element.children else None
            if type(text) is not Text:
                continue
            fault = script_fault(text.data, module=script_kind(element.attributes) == "module")
            if fault is None:
                continue
            span = piece.parsed.places.span(text.key) if text.key else None
            if span is not None and piece.source.slice(span) == text.data:
                return piece.source.place(span.start + fault.offset)
            return place_of(journey, element.key)
        for name, value in element.attributes.items():
            if name.startswith("on") and value and script_fault(value, body=True) is not None:
                return place_of(journey, element.key)
    return None, None


def absent_libraries(journey: Journey, copies: Path | None) -> list[str]:
    """Return the addresses of the libraries of a published piece of which there is no copy."""
    found = []
    for element in journey.published.elements():
        address = element.attributes.get("src", "") if element.name == "script" and _runs(element) else ""
        if not address or scheme_of(address) == "data":
            continue
        if copy_in(copies, address) is None:
            found.append(address.strip())
    return found
