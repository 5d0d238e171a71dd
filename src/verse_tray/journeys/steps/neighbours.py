"""Neighbours that become one."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tree import Element, Node
from verse_tray.model.findings import Change, Severity


def run(state: State) -> None:
    """Merge elements that stand side by side with the same name and attributes, where the profile lists them."""
    record = state.record
    names = frozenset(record.merge_elements)
    if not names:
        return
    taken: set[int] = set()
    for parent in [state.tree.root, *state.elements]:
        if id(parent) in taken:  # what is in it is looked at in the one that it became one with
            continue
        last: Node | None = None
        merges: list[tuple[Element, Element, Change]] = []
        for child in parent.children:
            if (
                isinstance(child, Element)
                and isinstance(last, Element)
                and child.name in names
                and (last.name, last.attributes) == (child.name, child.attributes)
            ):
                message = f"<{child.name}> becomes one with the <{last.name}> right before it. Readers see the same."
                merges.append((last, child, state.edits.change("neighbours/merge", message, Severity.NOTE, child)))
            else:
                last = child
        if merges:
            state.edits.merge(parent, merges)
            taken.update(id(child) for _, child, _ in merges)


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.merge_elements:
        yield "neighbours", f"Two alike become one: {', '.join(record.merge_elements)}."


STEP = Step(
    "neighbours",
    run,
    keys=("merge_elements",),
    told=_sentences,
    guide=(
        (
            "`mergeElements`",
            "elements that become one when two alike are neighbours",
            "none",
        ),
    ),
    sample="<b>one</b><b>two</b>\n",
)
