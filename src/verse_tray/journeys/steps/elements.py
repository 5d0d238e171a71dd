"""Elements: kept, dropped with their contents, unwrapped, or escaped into visible text."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Element as Listed
from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State, holds_something
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity

_PLAIN = frozenset(("span", "div", "font", "section", "article", "main", "header", "footer", "aside", "nav", "center"))


def run(state: State) -> None:
    """Do to each element what the lists say; nothing inside a dropped element is looked at."""
    rules, record = state.lists, state.record
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
    if state.lists.listed(element.namespace, name):
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
        if not all(child.fate for child in element.children):  # an earlier step may have taken all of it
            message = f"What is in <{name}> goes and its tags stay: this editor empties it."
            severity = Severity.ERROR if holds_something(element) else Severity.WARNING
            edits.clear(element, edits.change("elements/empty", message, severity, element))
    else:
        message = f"The tags of <{name}> become text that readers see: {cause}."
        told = edits.change("elements/escape", message, Severity.ERROR, element)
        edits.escape(element, told, bare=state.record.escape_with == "name")


_OTHERS = {
    "drop": "go with their contents",
    "unwrap": "go and leave their contents",
    "escape": "become visible text",
    "keep": "are kept too",
}


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.elements is not None:
        yield "elements", f"Kept: {_names(record.elements)}. Others {_OTHERS[record.other_elements]}."
    gone = ["script"] * (record.scripts == "drop") + ["style"] * (record.style_elements == "drop")
    for elements, what in (
        ((*gone, *record.remove_elements), "Gone with their contents"),
        (record.replace_with_children_elements, "Gone, contents left"),
        (record.escape_elements, "Shown as text"),
        (record.empty_elements, "Emptied"),
    ):
        if elements:
            yield "elements", f"{what}: {_names(elements)}."


def _names(elements: tuple[Listed, ...]) -> str:
    return ", ".join(each if isinstance(each, str) else each.name for each in elements)


STEP = Step(
    "elements",
    run,
    keys=(
        "elements",
        "remove_elements",
        "replace_with_children_elements",
        "escape_elements",
        "empty_elements",
        "other_elements",
    ),
    told=_sentences,
    guide=(
        (
            "`elements`",
            "elements that are kept: a name, or a table of `name`, `namespace`, `attributes`, `removeAttributes`",
            "all",
        ),
        (
            "`removeElements`",
            "elements that go with their contents",
            "none",
        ),
        (
            "`replaceWithChildrenElements`",
            "elements that go and leave their contents",
            "none",
        ),
        (
            "`escapeElements`",
            "elements whose tags become visible text",
            "none",
        ),
        (
            "`emptyElements`",
            "elements that stay and lose their contents",
            "none",
        ),
        (
            "`escapeWith`",
            "what of an escaped tag is seen: `tag`, as it was typed, or `name`: `<name>` and `</name>`",
            "`tag`",
        ),
        (
            "`otherElements`",
            "what happens to those that `elements` does not list: `drop`, `unwrap`, `escape`, `keep`",
            "`drop`",
        ),
    ),
    sample=(
        '<custom-tag>d</custom-tag><object data="x">o</object><canvas>n</canvas><textarea>t</textarea>\n'
        '<form action="/go"><input name="q"></form>\n'
    ),
)
