"""Attributes whose values have to be of a form."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.model.findings import Severity
from verse_tray.style.syntax import holds


def run(state: State) -> None:
    """Take away the attributes whose value is none of the form that the profile names."""
    for name, syntax in state.record.attribute_syntax.items():
        for element in state.elements:
            value = element.attributes.get(name)
            if value is None or element.fate or holds(value, syntax):
                continue
            message = (
                f"{name} “{value[:40]}” on <{element.name}> goes: this editor keeps values of the form {syntax} only."
            )
            change = state.edits.attribute_change("attribute-values/drop", message, Severity.WARNING, element, name)
            state.edits.set_attribute(element, name, None, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    for name, syntax in record.attribute_syntax.items():
        yield "attributes", f"{name} only as {syntax}."


STEP = Step(
    "attribute-values",
    run,
    keys=("attribute_syntax",),
    told=_sentences,
    guide=(
        (
            "`attributeSyntax`",
            'for an attribute, which values are kept, as a CSS syntax string: `{ width = "<integer> | <percentage>" }`',
            "all",
        ),
    ),
    sample='<img src="https://a.example/a.png" alt="a" width="wide">\n',
)
