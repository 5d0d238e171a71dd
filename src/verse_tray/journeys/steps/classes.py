"""Classes: an allow-list, a block-list, and a prefix."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.steps.style_elements import rewrite_sheets
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.style.selectors import rename_in_selectors

_WORD = lazy(r"[^\t\n\f\r ]+")


def run(state: State) -> None:
    """Take away classes that are not listed or are to go, and put a prefix before the others."""
    listed, prefix, gone = state.record.classes, state.record.class_prefix, state.record.remove_classes
    if listed is None and not prefix and not gone:
        return
    for element in state.elements:
        if element.attributes.get("class") and (listed is not None or gone):
            _filter(state, element, listed, gone)
        if element.attributes.get("class") and prefix:
            _prefix(state, element, prefix)
    if prefix:
        message = f"Classes in the selectors of this style element get {prefix} in front, as in the markup."
        rewrite_sheets(state, lambda css: rename_in_selectors(css, class_prefix=prefix), "classes/selectors", message)


def _filter(state: State, element: Element, listed: tuple[str, ...] | None, gone: tuple[str, ...]) -> None:
    value = element.attributes["class"]
    kept, changes = [], []
    for word in _WORD.finditer(value):
        taken = is_listed(word[0], gone)
        if not taken and (listed is None or is_listed(word[0], listed)):
            kept.append(word[0])
            continue
        why = "this editor takes it away" if taken else "it is not among the classes that this editor keeps"
        message = f"The class {word[0]} on <{element.name}> goes: {why}."
        span = Span(*word.span())
        change = state.edits.attribute_change("classes/drop", message, Severity.WARNING, element, "class", span)
        changes.append(change)
    if changes:
        state.edits.set_attribute(element, "class", " ".join(kept) or None, changes)


def is_listed(name: str, listed: tuple[str, ...]) -> bool:
    """Tell whether a class is among those listed, ``*`` at the end of one standing for any that begin so."""
    return any(name == each or (each.endswith("*") and name.startswith(each[:-1])) for each in listed)


def _prefix(state: State, element: Element, prefix: str) -> None:
    value = element.attributes["class"]
    new = _WORD.sub(lambda word: word[0] if word[0].startswith(prefix) else prefix + word[0], value)
    if new != value:
        message = (
            f"The classes of <{element.name}> get {prefix} in front. Styles and scripts of the site that name them no "
            "longer reach it."
        )
        change = state.edits.attribute_change("classes/prefix", message, Severity.NOTE, element, "class")
        state.edits.set_attribute(element, "class", new, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.classes is not None:
        yield "classes, names", f"Classes: only {', '.join(record.classes)}."
    if record.remove_classes:
        yield "classes, names", f"Classes gone: {', '.join(record.remove_classes)}."
    if record.class_prefix:
        yield "classes, names", f"Classes get {record.class_prefix} in front."


STEP = Step(
    "classes",
    run,
    keys=(
        "classes",
        "remove_classes",
        "class_prefix",
    ),
    told=_sentences,
    guide=(
        (
            "`classes`",
            "classes that are kept; `tide-*` for any that begin so",
            "all",
        ),
        (
            "`removeClasses`",
            "classes that go; `old-*` for any that begin so",
            "none",
        ),
        (
            "`classPrefix`",
            "what is put in front of every class, in selectors as well",
            "none",
        ),
    ),
    sample='<p class="a shop-x">classes</p>\n',
)
