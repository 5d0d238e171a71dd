"""Elements that need an attribute: a link without an address goes, and leaves its words."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State, holds_something
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import HTML
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed


def run(state: State) -> None:
    """Take away the elements that have none of the attributes that they need; their contents stay."""
    needs = state.record.need_attributes
    if not needs:
        return
    for element in state.elements:
        needed = needs.get(element.name)
        if needed is None or element.namespace != HTML or element.fate or any(n in element.attributes for n in needed):
            continue
        stays = " and its contents stay" if element.children else ""
        message = f"<{element.name}> goes{stays}: this editor keeps none without {listed(needed, 9, 'or')}."
        lost = not element.children and holds_something(element)
        severity = Severity.ERROR if lost else Severity.NOTE
        state.edits.unwrap(element, state.edits.change("needs/unwrap", message, severity, element))


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.need_attributes:
        told = "; ".join(f"{name} without {listed(each, 9, 'or')}" for name, each in record.need_attributes.items())
        yield "elements", f"Gone, contents left: {told}."


STEP = Step(
    "needs",
    run,
    keys=("need_attributes",),
    told=_sentences,
    guide=(
        (
            "`needAttributes`",
            'for an element, attributes of which it needs one: `{ a = ["href"] }`; without, it goes, contents left',
            "none",
        ),
    ),
    sample="<p><a>needs an address</a></p>\n",
)
