"""Scripts."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.model.findings import Severity
from verse_tray.script.kinds import script_kind

INERT = "text/plain"
"""Type that keeps a script from running."""


def run(state: State) -> None:
    """Drop scripts, or make them text that never runs, where the profile says so."""
    wanted = state.record.scripts
    if wanted not in ("drop", "neutralise"):
        return
    edits = state.edits
    for element in state.elements:
        if element.name != "script" or element.fate:
            continue
        source = element.attributes.get("src")
        which = f"The script from {source}" if source else "A script"
        if wanted == "drop":
            message = f"{which} goes: this editor keeps no scripts. What it did will not happen on the page."
            edits.drop(element, edits.change("scripts/drop", message, Severity.ERROR, element))
        elif script_kind(element.attributes):
            message = (
                f"{which} stays in the markup and never runs: this editor gives it the type {INERT}. What it did will "
                "not happen on the page."
            )
            change = edits.change("scripts/neutralise", message, Severity.ERROR, element)
            edits.set_attribute(element, "type", INERT, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.scripts == "neutralise":
        yield "elements", "Scripts stay in the markup and never run."


STEP = Step(
    "scripts",
    run,
    keys=("scripts",),
    told=_sentences,
    guide=(
        (
            "`scripts`",
            "`keep`, `drop`, or `neutralise`: kept in the markup, and never run",
            "the element lists decide",
        ),
    ),
    sample="<script>x()</script>\n",
)
