"""Attributes, by the global lists, the element's own, ``data-*`` and event handlers."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.given import is_given_back
from verse_tray.journeys.steps.step import Step
from verse_tray.model.findings import Severity

_SEVERE = {
    "href": "The link leads nowhere.",
    "src": "Nothing is shown.",
    "srcset": "The other sizes of the picture are gone.",
    "alt": "People who do not see the picture are told nothing.",
    "style": "The look it gave is gone.",
}
_KNOWN_EFFECTS = {
    "class": "Styles that name this class no longer reach it.",
    "id": "Links and styles that name it no longer find it.",
    "colspan": "The table's cells no longer line up.",
    "rowspan": "The table's cells no longer line up.",
    "target": "The link opens in the same window.",
    "width": "Its size is left to the page.",
    "height": "Its size is left to the page.",
}


def run(state: State) -> None:
    """Take away the attributes that the lists do not let through."""
    if not state.lists.changes_attributes:
        return
    edits, causes, given = state.edits, state.lists.attribute_causes, state.record.set_attributes
    cause_of = state.lists.attribute_cause
    for element in state.elements:
        if not element.attributes:
            continue
        namespace, tag = element.namespace, element.name
        known = causes(namespace, tag)
        for name in [name for name in element.attributes if known.get(name, "?") is not None]:
            cause = cause_of(namespace, tag, name)
            if cause is None or (given and is_given_back(element, name, given)):
                continue
            if cause == "handler":
                rule, severity = "attributes/handler", Severity.ERROR
                message = f"{name} on <{tag}> goes: this editor keeps no event handlers. Nothing happens on this event."
            else:
                rule = "attributes/drop"
                severity = Severity.ERROR if name in _SEVERE else Severity.WARNING
                effect = _SEVERE.get(name) or _KNOWN_EFFECTS.get(name, "")
                whose = f"keeps no {name} on <{tag}>" if cause == "element" else f"keeps no {name}"
                message = f"{name} on <{tag}> goes: this editor {whose}. {effect}".rstrip()
            edits.set_attribute(element, name, None, [edits.attribute_change(rule, message, severity, element, name)])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.attributes is not None:
        yield "attributes", f"On every element: {', '.join(record.attributes)}."
    if record.remove_attributes:
        yield "attributes", f"Gone: {', '.join(record.remove_attributes)}."
    own = [each for each in record.elements or () if not isinstance(each, str) and each.attributes]
    if own:
        told = "; ".join(f"{each.name} keeps {', '.join(each.attributes or ())}" for each in own)
        yield "attributes", f"Besides: {told}."
    if record.attributes is not None:
        yield "attributes", "data- attributes " + ("are kept." if record.data_attributes else "go.")
    if not record.event_handlers:
        yield "attributes", "Event handlers go."


STEP = Step(
    "attributes",
    run,
    keys=(
        "attributes",
        "remove_attributes",
        "data_attributes",
        "event_handlers",
        "elements",
    ),
    told=_sentences,
    guide=(
        (
            "`attributes`",
            "attributes that every element keeps",
            "all",
        ),
        (
            "`removeAttributes`",
            "attributes that every element loses",
            "none",
        ),
        (
            "`dataAttributes`",
            "whether `data-*` is kept although `attributes` does not list it",
            "`true`",
        ),
        (
            "`eventHandlers`",
            "whether `onclick` and the like are kept",
            "`true`",
        ),
    ),
    sample='<p onclick="x()" title="t" data-x="1">attributes</p>\n',
)
