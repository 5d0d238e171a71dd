"""Nesting that is repaired: text-level elements around blocks, and list items without a list."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import BLOCKS, TEXT_LEVEL
from verse_tray.markup.tree import Element, Node
from verse_tray.model.findings import Change, Severity

_MOST_MADE = 100_000
"""Elements made in one piece at most: every level around a thousand blocks makes a thousand."""
_LISTS = ("ul", "ol", "menu")


def run(state: State) -> None:
    """Move text-level elements inside the blocks that they hold, and give stray list items a list."""
    record = state.record
    if record.nesting != "repair":
        return
    left = _MOST_MADE
    for parent in [*reversed(state.elements), state.tree.root]:  # inner ones first
        left -= _repair(state, parent, left)


def _repair(state: State, parent: Element, left: int) -> int:
    """Repair what a parent holds, and return how many elements that made; none when more than ``left`` would be."""
    changes: list[Change] = []
    children: list[Node] = []
    made = 0
    for child in parent.children:
        if isinstance(child, Element) and _holds_a_block(child) and len(child.children) <= left:
            left -= len(child.children)
            made += len(child.children)
            message = (
                f"<{child.name}> moves inside the blocks that it holds: this editor nests text-level elements in "
                "blocks, never the other way round."
            )
            change = state.edits.change("nesting/inside", message, Severity.WARNING, child)
            changes.append(change)
            children += _pushed(state, child, change)
        else:
            children.append(child)
    if parent.name not in _LISTS:
        children = _listed(state, children, changes)
    if changes:
        state.edits.rearrange(parent, children, changes)
    return made


def _holds_a_block(element: Element) -> bool:
    return element.name in TEXT_LEVEL and any(isinstance(c, Element) and c.name in BLOCKS for c in element.children)


def _pushed(state: State, element: Element, change: Change) -> list[Node]:
    """Return what stands in the place of a text-level element that holds blocks."""
    key = element.key
    made: list[Node] = []
    blocks: list[tuple[Element, list[Node]]] = []
    work: list[tuple[list[Node], list[Node]]] = [(element.children, made)]
    while work:
        nodes, target = work.pop()
        run: list[Node] = []
        for node in [*nodes, None]:
            if node is not None and not (isinstance(node, Element) and node.name in BLOCKS):
                run.append(node)
                continue
            if run:
                wrapper = Element(element.name, element.namespace, dict(element.attributes), key)
                wrapper.children = run
                solid = any(isinstance(n, Element) or getattr(n, "data", "").strip() for n in run)
                target += [wrapper] if solid else run
                key = 0 if solid else key
                if solid and "id" in element.attributes and wrapper.key == 0:
                    del wrapper.attributes["id"]
                run = []
            if node is not None:
                assert isinstance(node, Element)
                inner: list[Node] = []
                work.append((node.children, inner))
                blocks.append((node, inner))
                target.append(node)
    for block, inner in blocks:
        if list(map(id, inner)) != list(map(id, block.children)):
            state.edits.rearrange(block, inner, [change])
    return made


def _listed(state: State, children: list[Node], changes: list[Change]) -> list[Node]:
    """Return the children with stray list items inside a list."""
    found: list[Node] = []
    lists: dict[int, tuple[Element, list[Node], list[Change]]] = {}
    for child in children:
        if not (isinstance(child, Element) and child.name == "li"):
            found.append(child)
            continue
        last = found[-1] if found else None
        if not (isinstance(last, Element) and last.name == "ul" and not last.key):
            last = Element("ul")
            found.append(last)
            message = "A list item stands outside a list: this editor puts one around it."
            changes.append(state.edits.change("nesting/list", message, Severity.NOTE, child))
        told = state.edits.change("nesting/list", "A list item moves into the list before it.", Severity.NOTE, child)
        _, inner, about = lists.setdefault(id(last), (last, list(last.children), []))
        inner.append(child)
        about.append(told)
    fresh = {id(each) for each in found} - {id(each) for each in children}
    for made, inner, about in lists.values():
        if id(made) in fresh:
            made.children = inner
        else:  # one that the editor made when it opened the piece before
            state.edits.rearrange(made, inner, about)
    return found


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.nesting == "repair":
        yield "nesting", "Text-level elements move inside blocks; stray list items get a list."


STEP = Step(
    "nesting",
    run,
    keys=("nesting",),
    told=_sentences,
    guide=(
        (
            "`nesting`",
            "`repair`: text-level elements move inside blocks, stray list items get a list",
            "`keep`",
        ),
    ),
    sample="<b>around <div>a block</div></b>\n",
)
