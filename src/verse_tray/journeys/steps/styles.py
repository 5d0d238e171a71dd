"""Declarations in style attributes, by property and by value."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.editors.filters import Filter, Styles
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Change, Severity
from verse_tray.style.declarations import Declaration, parse_declarations

_NOTHING = Styles()


def run(state: State) -> None:
    """Take away declarations that are not let through, and the attribute when none is left."""
    rules = state.record.styles
    if rules == _NOTHING:
        return
    functions = re.compile(rf"(?:{'|'.join(map(re.escape, rules.remove_functions))})\(", re.IGNORECASE)
    allowed = None if rules.properties is None else frozenset(rules.properties)
    for element in state.elements:
        style = element.attributes.get("style")
        if style is None:
            continue
        kept: list[str] = []
        lost: list[tuple[Declaration, str]] = []
        for declaration in parse_declarations(style):
            reason = _reason(rules, allowed, functions, declaration)
            if reason is None:
                kept.append(style[declaration.span.start : declaration.span.end])
            else:
                lost.append((declaration, reason))
        if lost:
            value = "; ".join(kept) + ";" if kept else None
            state.edits.set_attribute(element, "style", value, _changes(state, element, style, lost))


def _reason(
    rules: Styles, allowed: frozenset[str] | None, functions: re.Pattern[str], declaration: Declaration
) -> str | None:
    """Return why a declaration goes, or None when it stays."""
    name = declaration.name
    if not name:
        return "it is no declaration that a browser reads"
    if allowed is not None and name not in allowed:
        return f"{name} is not among the properties that this editor keeps"
    if name in rules.remove_properties:
        return f"this editor takes {name} away"
    if name in rules.values and declaration.value.lower() not in rules.values[name]:
        return f"for {name} this editor keeps {', '.join(rules.values[name])} only"
    if rules.remove_functions and functions.search(declaration.value):
        return f"this editor takes values with {', '.join(f'{each}()' for each in rules.remove_functions)} away"
    return None


def _changes(state: State, element: Element, style: str, lost: list[tuple[Declaration, str]]) -> list[Change]:
    changes = []
    for declaration, reason in lost:
        text = style[declaration.span.start : declaration.span.end]
        message = f"“{_short(text)}” on <{element.name}> goes: {reason}."
        severity = Severity.WARNING if declaration.name else Severity.NOTE
        change = state.edits.attribute_change(
            "styles/declaration", message, severity, element, "style", declaration.span
        )
        changes.append(change)
    return changes


def _short(text: str) -> str:
    text = " ".join(text.split())
    return text if len(text) <= 60 else f"{text[:57]}…"


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    rules = record.styles
    if rules.properties is not None:
        yield "styles", f"In style attributes only {', '.join(rules.properties)}."
    if rules.remove_properties:
        yield "styles", f"Gone from style attributes: {', '.join(rules.remove_properties)}."
    for name, values in rules.values.items():
        yield "styles", f"{name} only as {', '.join(values)}."
    if rules.remove_functions:
        yield "styles", f"No values with {', '.join(f'{name}()' for name in rules.remove_functions)}."


STEP = Step(
    "styles",
    run,
    keys=("styles",),
    told=_sentences,
    guide=(
        (
            "`styles`",
            "for `style` attributes: `properties` that are kept, `removeProperties`, `values` (the only "
            "ones for a property), `removeFunctions`",
            "all",
        ),
    ),
    sample='<p style="color: red; position: fixed">styles</p>\n',
)
