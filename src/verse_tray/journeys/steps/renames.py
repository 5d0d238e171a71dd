"""Elements that are given another name."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter, NewName
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.survival.structure import are_equivalent
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity


def run(state: State) -> None:
    """Rename elements, and write the style that stands for the old name into them."""
    names = state.record.rename_elements
    if not names:
        return
    edits = state.edits
    for element in state.elements:
        new = names.get(element.name)
        if new is None or element.namespace != "html":
            continue
        name, style = (new.name, new.style) if isinstance(new, NewName) else (new, "")
        if name == element.name:
            continue
        same = are_equivalent(element.name, name)
        effect = "Readers see the same." if same else "Space around it and meaning are those of the new one."
        severity = Severity.NOTE if same else Severity.WARNING
        message = f"<{element.name}> becomes <{name}>: this editor writes the one for the other. {effect}"
        edits.rename(element, name, edits.change("renames/element", message, severity, element))
        if style:
            _style(state, element, style)


def _style(state: State, element: Element, style: str) -> None:
    own = element.attributes.get("style", "")
    value = f"{style.rstrip('; ')}; {own}" if own else style
    message = f"“{style}” is written into its style, for what the old name showed."
    change = state.edits.change("renames/style", message, Severity.NOTE, element)
    state.edits.set_attribute(element, "style", value, [change])


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    for old, new in record.rename_elements.items():
        name, style = (new.name, new.style) if isinstance(new, NewName) else (new, "")
        yield "elements", f"{old} becomes {name}{f' with the style “{style}”' if style else ''}."


STEP = Step(
    "renames",
    run,
    keys=("rename_elements",),
    told=_sentences,
    guide=(
        (
            "`renameElements`",
            'new names by the old one: `b = "strong"`, or `center = { name = "div", style = "text-align: '
            'center" }`, where `style` stands for what the old name showed',
            "none",
        ),
    ),
    sample='<b>bold</b> <center>c</center><font color="red">e</font>\n',
)
