"""Style elements."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.markup.tree import Text
from verse_tray.model.findings import Severity
from verse_tray.style.sheets import parse_sheet


def run(state: State) -> None:
    """Drop style elements where the profile says so."""
    if state.rules.save.style_elements != "drop":
        return
    pen = state.pen
    for element in state.elements:
        if element.name == "style":
            text = "".join(child.data for child in element.children if type(child) is Text)
            count = len(parse_sheet(text).rules)
            rules = f"{count} rule{'' if count == 1 else 's'}"
            message = (
                f"A style element with {rules} goes: this editor keeps none. "
                "Write the declarations into style attributes of the elements they are for."
            )
            pen.drop(element, pen.change("style-elements/drop", message, Severity.ERROR, element))
