"""Identifiers that are given a prefix."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.steps.style_elements import rewrite_sheets
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.style.selectors import rename_in_selectors

NewName = Callable[[str], str]
_LISTS = frozenset(
    "for headers list form aria-labelledby aria-describedby aria-controls aria-owns aria-details itemref".split()
)
"""Attributes that hold identifiers (HTML standard; WAI-ARIA 1.2)."""


def run(state: State) -> None:
    """Put the prefix before every identifier, and before what refers to one within the piece."""
    prefix = state.record.id_prefix
    if not prefix:
        return
    known = {element.attributes["id"] for element in state.elements if element.attributes.get("id")}
    known |= {e.attributes["name"] for e in state.elements if e.name == "a" and e.attributes.get("name")}
    if not known:
        return

    def new(name: str) -> str:
        return prefix + name if name in known and not name.startswith(prefix) else name

    for element in state.elements:
        for name, value in list(element.attributes.items()):
            _rename(state, element, name, value, prefix, new)
    message = f"Identifiers in the selectors of this style element get {prefix} in front, as in the markup."
    rewrite_sheets(state, lambda css: rename_in_selectors(css, id_prefix=prefix), "identifiers/selectors", message)


def _rename(state: State, element: Element, name: str, value: str, prefix: str, new: NewName) -> None:
    if name == "id" or (name == "name" and element.name == "a"):
        after = new(value)
        told = f"The identifier {value} on <{element.name}> becomes {after}. Scripts that look for it find nothing."
        severity = Severity.WARNING
    elif name in _LISTS:
        after = " ".join(new(word) for word in value.split())
        after = value if after == " ".join(value.split()) else after
        told, severity = f"{name} on <{element.name}> follows the new identifiers.", Severity.NOTE
    elif name in ("href", "usemap", "xlink:href") and value.startswith("#"):
        after = "#" + new(value[1:])
        told, severity = f"{name} on <{element.name}> follows the new identifier.", Severity.NOTE
    else:
        return
    if after != value:
        change = state.edits.attribute_change("identifiers/prefix", told, severity, element, name)
        state.edits.set_attribute(element, name, after, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.id_prefix:
        yield "classes, names", f"Identifiers get {record.id_prefix} in front."


STEP = Step(
    "identifiers",
    run,
    keys=("id_prefix",),
    told=_sentences,
    guide=(
        (
            "`idPrefix`",
            "what is put in front of every identifier, in selectors and references as well",
            "none",
        ),
    ),
    sample='<p id="b">an identifier</p>\n',
)
