"""Attributes that elements are given, whatever the author wrote."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import structs

from verse_tray.editors.filters import Filter, SetAttribute
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.addresses import host_of
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed


def run(state: State) -> None:
    """Give each element the attributes that the profile names."""
    for given in state.record.set_attributes:
        for element in state.elements:
            if _is_meant(element, given) and element.attributes.get(given.name) != given.value:
                was = f" in place of “{element.attributes[given.name]}”" if given.name in element.attributes else ""
                message = (
                    f"<{element.name}> gets {given.name} “{given.value}”{was}: this editor gives it to {_whom(given)}."
                )
                severity = Severity.WARNING if was and given.name not in ("rel", "target") else Severity.NOTE
                change = state.edits.change("given/set", message, severity, element)
                state.edits.set_attribute(element, given.name, given.value, [change])


def is_given_back(element: Element, name: str, all_given: tuple[SetAttribute, ...]) -> bool:
    """Tell whether an element would be given an attribute again, with the same value, if it were taken away."""
    value = element.attributes[name]
    return any(
        (each.name, each.value) == (name, value) and _is_meant(element, structs.replace(each, when_missing=False))
        for each in all_given
    )


def _is_meant(element: Element, given: SetAttribute) -> bool:
    if element.namespace != HTML or element.fate or (given.elements and element.name not in given.elements):
        return False
    if given.when_missing and given.name in element.attributes:
        return False
    if given.beside is not None and given.beside not in element.attributes:
        return False
    address = element.attributes.get("href", element.attributes.get("src", ""))
    return not given.outward or host_of(address) is not None


def _whom(given: SetAttribute) -> str:
    names = f"every {listed(given.elements, 9)}" if given.elements else "every element"
    outward = " that leads to another host" if given.outward else ""
    beside = f" with {given.beside}" if given.beside else ""
    return f"{names}{beside}{outward}{' without one' if given.when_missing else ''}"


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    for given in record.set_attributes:
        yield "attributes", f"Given to {_whom(given)}: {given.name} “{given.value}”."


STEP = Step(
    "given",
    run,
    keys=("set_attributes",),
    told=_sentences,
    guide=(
        (
            "`setAttributes`",
            "attributes that elements are given: tables of `name`, `value`, `elements` (left out: all), `whenMissing`, "
            "`beside` (only with that attribute), `outward` (only with an address of a host)",
            "none",
        ),
    ),
    sample='<p><a href="https://far.example/y">given</a></p>\n',
)
