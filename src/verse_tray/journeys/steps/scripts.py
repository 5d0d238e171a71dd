"""Script elements."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop scripts where the profile says so."""
    if state.rules.save.scripts != "drop":
        return
    pen = state.pen
    for element in state.elements:
        if element.name == "script":
            source = element.attributes.get("src")
            which = f"The script from {source}" if source else "A script"
            message = f"{which} goes: this editor keeps no scripts. What it did will not happen on the page."
            pen.drop(element, pen.change("scripts/drop", message, Severity.ERROR, element))
