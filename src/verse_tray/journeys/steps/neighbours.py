"""Neighbours that become one."""

from __future__ import annotations

from verse_tray.editors.profile import Reopen
from verse_tray.journeys.state import State
from verse_tray.markup.tree import Element, Node
from verse_tray.model.findings import Change, Severity


def run(state: State) -> None:
    """Merge elements that stand side by side with the same name and attributes, where the profile lists them."""
    record = state.record_as(Reopen)
    names = frozenset(record.merge_elements) if record else frozenset()
    if not names:
        return
    for parent in [state.tree.root, *state.elements]:
        children: list[Node] = []
        changes: list[Change] = []
        for child in parent.children:
            last = children[-1] if children else None
            if (
                isinstance(child, Element)
                and isinstance(last, Element)
                and child.name in names
                and (last.name, last.attributes) == (child.name, child.attributes)
            ):
                message = f"<{child.name}> becomes one with the <{last.name}> right before it. Readers see the same."
                changes.append(state.edits.change("neighbours/merge", message, Severity.NOTE, child))
                last.children.extend(child.children)
                state.tree.merged[child.key] = last.key
            else:
                children.append(child)
        if changes:
            state.edits.rearrange(parent, children, changes)
