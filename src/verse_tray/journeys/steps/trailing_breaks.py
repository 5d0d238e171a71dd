"""Line breaks at the end of blocks."""

from __future__ import annotations

from verse_tray.editors.profile import Reopen
from verse_tray.journeys.state import State
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop the line breaks with which a block ends, where the profile says so."""
    record = state.record_as(Reopen)
    if record is None or record.trailing_breaks != "drop":
        return
    state.settle()
    for element in state.elements:
        if element.name not in BLOCKS:
            continue
        trailing: list[Node] = []
        for child in reversed(element.children):
            if isinstance(child, Element) and child.name == "br":
                trailing.append(child)
            elif not (isinstance(child, Text) and not child.data.strip(" \t\n\f\r")):
                break
        for child in trailing:
            message = f"A line break at the end of <{element.name}> goes: this editor keeps none there."
            change = state.edits.change("trailing-breaks/drop", message, Severity.NOTE, child)
            state.edits.drop(child, change)
        if trailing:  # the last of them shows nothing
            state.tree.merged[trailing[0].key] = element.key
    state.settle()
