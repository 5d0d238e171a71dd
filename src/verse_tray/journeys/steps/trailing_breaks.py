"""Line breaks at the end of blocks."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop the line breaks with which a block ends, where the profile says so."""
    record = state.record
    if record.trailing_breaks != "drop":
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
        for number, child in enumerate(trailing):
            message = f"A line break at the end of <{element.name}> goes: this editor keeps none there."
            change = state.edits.change("trailing-breaks/drop", message, Severity.NOTE, child)
            state.edits.drop(child, change, into=None if number else element)  # the last of them shows nothing
    state.settle()


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.trailing_breaks == "drop":
        yield "line breaks", "Those at the end of blocks go."


STEP = Step(
    "trailing-breaks",
    run,
    keys=("trailing_breaks",),
    told=_sentences,
    guide=(
        (
            "`trailingBreaks`",
            "`drop`: line breaks at the end of blocks go",
            "`keep`",
        ),
    ),
    sample="<p>the end<br></p>\n",
)
