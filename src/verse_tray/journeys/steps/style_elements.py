"""Style elements."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Text, own_text
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted, listed
from verse_tray.style.sheets import parse_sheet


def run(state: State) -> None:
    """Drop style elements, or move them to the front."""
    record = state.record
    if record.style_elements not in ("drop", "front"):
        return
    edits = state.edits
    leading = True
    if record.style_elements == "front":
        state.settle()
    at_front = {id(child) for child in state.tree.root.children if isinstance(child, Element) and child.name == "style"}
    for element in state.elements:
        if element.name != "style" or element.fate:
            leading = leading and id(element) in at_front
            continue
        if record.style_elements == "drop":
            edits.drop(element, edits.change("style-elements/drop", *_told(element), element))
            continue
        if not (leading and id(element) in at_front):
            message, severity = "A style element moves to the front of the piece. ", Severity.NOTE
            if element.namespace == HTML:
                message += "It does there what it did here."
            else:
                severity = Severity.WARNING
                message += "Browsers read it otherwise there: signs such as > and comments in it mean something else."
            edits.move_to_front(element, edits.change("style-elements/front", message, severity, element))
    state.settle()  # what moved is looked at by the steps that follow


def _told(element: Element) -> tuple[str, Severity]:
    """Return what is said of a style element that goes, and how grave that is."""
    sheet = parse_sheet(own_text(element))
    count = sum(1 for rule in sheet.rules if rule.declarations)
    if count:
        return (
            f"A style element with {counted(count, 'rule')} goes: this editor keeps none. Write the declarations into "
            "style attributes of the elements they are for."
        ), Severity.ERROR
    if sheet.named:
        return (
            f"A style element with {listed(named.name for named in sheet.named)} goes: this editor keeps none."
        ), Severity.WARNING
    return "A style element without any rule goes: nothing is lost with it.", Severity.NOTE


def rewrite_sheets(state: State, rewrite: Callable[[str], str], rule: str, message: str) -> None:
    """Give every style element that ``rewrite`` changes another text."""
    edits = state.edits
    for element in state.elements:
        if element.name != "style" or element.fate:
            continue
        texts = [child for child in element.children if type(child) is Text and not child.fate]
        before = "".join(text.data for text in texts)
        after = rewrite(before)
        if after != before:
            first, *others = texts
            change = edits.change(rule, message, Severity.NOTE, element)
            edits.replace(first, [Text(after, first.key)], [change], raw=True)
            for other in others:
                edits.drop(other, change)
    state.settle()


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.style_elements == "front":
        yield "elements", "Style elements move to the front."


STEP = Step(
    "style-elements",
    run,
    keys=("style_elements",),
    told=_sentences,
    guide=(
        (
            "`styleElements`",
            "`keep`, `drop`, or `front`: moved to the front of the piece",
            "the element lists decide",
        ),
    ),
    sample="<p>first</p><style>.a { color: red } p { margin: 0 }</style><style>#b { top: 0 }</style>\n",
)
