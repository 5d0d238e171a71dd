"""Declarations in style attributes, by property and by value."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.editors.filters import Filter, Styles
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.classes import is_listed
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Change, Severity
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.syntax import holds

_NOTHING = Styles()


def run(state: State) -> None:
    """Take away declarations that are not let through, and the attribute when none is left."""
    rules = state.record.styles
    if rules == _NOTHING:
        return
    functions = re.compile(rf"(?:{'|'.join(map(re.escape, rules.remove_functions))})\(", re.IGNORECASE)
    allowed = rules.properties
    forms = (rules.colon, rules.separator, rules.closed) != (None, None, None)
    for element in state.elements:
        style = element.attributes.get("style")
        if style is None:
            continue
        kept: list[Declaration] = []
        lost: list[tuple[Declaration, str]] = []
        for declaration in parse_declarations(style):
            reason = _reason(rules, allowed, functions, declaration)
            if reason is None:
                kept.append(declaration)
            else:
                lost.append((declaration, reason))
        if lost and rules.whole_attribute:
            lost += [(each, "this editor takes the whole attribute with one that it does not keep") for each in kept]
            kept = []
        value = _written(rules, style, kept) if lost or rules.writes != "as-typed" or forms else style
        if lost:
            state.edits.set_attribute(element, "style", value, _changes(state, element, style, lost))
        elif value != style:
            message = f"The styles of <{element.name}> are written as “{_short(value or '')}”. They mean the same."
            change = state.edits.attribute_change("styles/written", message, Severity.NOTE, element, "style")
            state.edits.set_attribute(element, "style", value, [change])


def _written(rules: Styles, style: str, kept: list[Declaration]) -> str | None:
    """Return what an attribute becomes; None for nothing."""
    typed = [style[each.span.start : each.span.end].strip() for each in kept]
    if not typed:
        return None
    colon, separator, closed = _FORMS[rules.writes]
    colon = rules.colon if rules.colon is not None else colon
    separator = rules.separator if rules.separator is not None else separator
    closed = rules.closed if rules.closed is not None else closed
    if colon is not None:
        parts = [each.partition(":") for each in typed]
        typed = [f"{name.strip().lower()}{colon}{value.strip()}" for name, _, value in parts]
    return separator.join(typed) + (";" if closed else "")


_FORMS: dict[str, tuple[str | None, str, bool]] = {
    "as-typed": (None, "; ", True),
    "spaced": (": ", "; ", True),
    "tight": (":", ";", False),
}
"""What stands between property and value (None: as typed), between declarations, and whether one stands behind all."""


def _reason(
    rules: Styles, allowed: tuple[str, ...] | None, functions: re.Pattern[str], declaration: Declaration
) -> str | None:
    """Return why a declaration goes, or None when it stays."""
    name = declaration.name
    if not name:
        return "it is no declaration that a browser reads"
    if allowed is not None and not is_listed(name, allowed):
        return f"{name} is not among the properties that this editor keeps"
    if is_listed(name, rules.remove_properties):
        return f"this editor takes {name} away"
    if not rules.important and declaration.important:
        return "this editor keeps none with !important"
    if name in rules.values and not is_one_of(declaration.value, rules.values[name]):
        return f"for {name} this editor keeps {', '.join(rules.values[name])} only"
    syntax = rules.syntax.get(name, rules.syntax.get("*")) if rules.syntax else None
    if syntax is not None and not holds(declaration.value, syntax):
        return f"for {name} this editor keeps values of the form {syntax} only"
    if rules.remove_functions and functions.search(declaration.value):
        return f"this editor takes values with {', '.join(f'{each}()' for each in rules.remove_functions)} away"
    return None


def is_one_of(value: str, values: tuple[str, ...]) -> bool:
    """Tell whether a value is one of those of a profile, in which ``<number>`` stands for a number."""
    value = value.lower()
    return value in values or any("<number>" in each and _pattern(each).fullmatch(value) for each in values)


@lru_cache(maxsize=512)
def _pattern(value: str) -> re.Pattern[str]:
    return re.compile(re.escape(value).replace("<number>", r"\d*\.?\d+"))


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
    for name, syntax in sorted(rules.syntax.items(), key=lambda each: each[0] == "*"):
        yield "styles", f"{'Others' if name == '*' else name} only as {syntax}."
    if not rules.important:
        yield "styles", "None with !important."
    if rules.whole_attribute:
        yield "styles", "One that is not kept takes the whole attribute along."
    if rules.writes != "as-typed":
        yield "styles", f"Written as {'color:red;margin:0' if rules.writes == 'tight' else 'color: red; margin: 0;'}."
    elif (rules.colon, rules.separator, rules.closed) != (None, None, None):
        sample = [f"color{rules.colon or ': '}red", f"margin{rules.colon or ': '}0"]
        yield (
            "styles",
            f"Written as {(rules.separator or '; ').join(sample)}{';' if rules.closed is not False else ''}.",
        )
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
            "ones for a property; `<number>px` is any length in pixels), `important` (whether those so marked are "
            "kept), `syntax` (for a property, or `*` for the others, a CSS syntax string such as "
            "`<length>+`), `removeFunctions`, `wholeAttribute` (one that goes takes all along), `writes` (`as-typed`, "
            "`spaced`, `tight`), or `colon`, `separator` and `closed` one by one",
            "all",
        ),
    ),
    sample='<p style="color: red; position: fixed">styles</p>\n',
)
