"""Attributes whose being there is all that counts: how they are written."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import HTML
from verse_tray.markup.vocabulary import BOOLEAN
from verse_tray.model.findings import Severity

_WRITTEN = BOOLEAN - {"hidden"}  # which can have a value that means something else


def run(state: State) -> None:
    """Write boolean attributes as the editor does."""
    form = state.record.boolean_attributes
    if form == "keep":
        return
    for element in state.elements:
        if element.namespace != HTML or element.fate:
            continue
        for name in [
            name for name in element.attributes if name in BOOLEAN and name != "hidden"
        ]:  # which has a second value
            value = name if form == "repeat" else ""  # bare is a way of writing it
            if element.attributes[name] != value:
                how = "without a value" if form == "bare" else f"as {name}=“{value}”"
                message = f"{name} on <{element.name}> is written {how}. It means the same."
                change = state.edits.attribute_change("booleans/written", message, Severity.NOTE, element, name)
                state.edits.set_attribute(element, name, value, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.boolean_attributes != "keep":
        how = {"empty": 'checked=""', "repeat": 'checked="checked"', "bare": "checked"}[record.boolean_attributes]
        yield "attributes", f"Those whose being there is all that counts are written as {how}."


STEP = Step(
    "booleans",
    run,
    keys=("boolean_attributes",),
    told=_sentences,
    guide=(
        (
            "`booleanAttributes`",
            'how attributes such as `checked` are written: `keep`, `empty` (`checked=""`), `repeat` '
            '(`checked="checked"`), `bare` (`checked`)',
            "`keep`",
        ),
    ),
    sample="<ol reversed><li>booleans</ol>\n",
)
