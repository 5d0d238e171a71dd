"""Elements that hold nothing."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import VOID
from verse_tray.markup.tree import Text
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Drop listed elements that hold neither text nor another element, inner ones first."""
    record = state.record
    names = frozenset(record.remove_empty_elements)
    if not names:
        return
    state.settle()
    gone: set[int] = set()
    for element in reversed(state.elements):
        if (
            element.name in names
            and element.name not in VOID
            and all(
                id(child) in gone or (isinstance(child, Text) and not child.data.strip(" \t\n\f\r"))
                for child in element.children
            )
        ):
            gone.add(id(element))
    for element in state.elements:
        if id(element) in gone and not element.fate:
            drawn = element.attributes.get("class") or element.attributes.get("style")
            effect = " What its class or style drew, an icon say, is gone." if drawn else ""
            message = (
                f"<{element.name}> holds nothing and goes: this editor keeps no empty elements of this name.{effect}"
            )
            severity = Severity.ERROR if drawn else Severity.NOTE
            state.edits.drop(element, state.edits.change("empties/drop", message, severity, element))


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.remove_empty_elements:
        yield "empty ones", f"Gone when empty: {', '.join(record.remove_empty_elements)}."


STEP = Step(
    "empties",
    run,
    keys=("remove_empty_elements",),
    told=_sentences,
    guide=(
        (
            "`removeEmptyElements`",
            "elements that go when they hold nothing",
            "none",
        ),
    ),
    sample='<p>x<i class="icon"></i></p>\n',
)
