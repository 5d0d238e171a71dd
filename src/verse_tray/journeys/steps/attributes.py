"""Attributes, by the global lists, the element's own, ``data-*`` and event handlers."""

from __future__ import annotations

from verse_tray.journeys.state import State
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
    if not state.rules.changes_attributes:
        return
    edits, causes = state.edits, state.rules.attribute_causes
    cause_of = state.rules.attribute_cause
    for element in state.elements:
        if not element.attributes:
            continue
        namespace, tag = element.namespace, element.name
        known = causes(namespace, tag)
        for name in [name for name in element.attributes if known.get(name, "?") is not None]:
            cause = cause_of(namespace, tag, name)
            if cause is None:
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
