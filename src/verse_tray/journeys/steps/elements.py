"""Elements: kept, dropped with their contents, unwrapped, or escaped into visible text."""

from __future__ import annotations

from verse_tray.journeys.state import State, holds_something
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity

_PLAIN = frozenset(("span", "div", "font", "section", "article", "main", "header", "footer", "aside", "nav", "center"))


def run(state: State) -> None:
    """Do to each element what the lists say; nothing inside a dropped element is looked at."""
    rules, record = state.rules, state.record
    if not rules.changes_elements:
        return
    decide = rules.element
    own_steps = {n for n, kept in (("script", record.scripts), ("style", record.style_elements)) if kept}
    kept = rules.kept_html
    for element in state.elements:
        if (element.name in kept and element.namespace == HTML) or element.fate:
            continue
        action = decide(element.namespace, element.name)
        if action != "keep" and element.name not in own_steps:
            _carry_out(state, element, action)


def _carry_out(state: State, element: Element, action: str) -> None:
    edits = state.edits
    name = element.name
    if state.rules.listed(element.namespace, name):
        cause = f"this editor takes <{name}> away"
    else:
        cause = f"<{name}> is not among the elements that this editor keeps"
    if action == "drop":
        full = holds_something(element)
        message = f"<{name}> goes{' with all that is in it' if element.children else ''}: {cause}."
        severity = Severity.ERROR if full else Severity.WARNING
        edits.drop(element, edits.change("elements/drop", message, severity, element))
    elif action == "unwrap":
        message = f"<{name}> goes and its contents stay: {cause}."
        severity = Severity.NOTE if name in _PLAIN else Severity.WARNING
        edits.unwrap(element, edits.change("elements/unwrap", message, severity, element))
    elif action == "empty":
        if element.children:
            message = f"What is in <{name}> goes and its tags stay: this editor empties it."
            severity = Severity.ERROR if holds_something(element) else Severity.WARNING
            edits.clear(element, edits.change("elements/empty", message, severity, element))
    else:
        message = f"The tags of <{name}> become text that readers see: {cause}."
        edits.escape(element, edits.change("elements/escape", message, Severity.ERROR, element))
