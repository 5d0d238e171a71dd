"""What stands outside any block: put into paragraphs; and what stands between blocks."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State, holds_something
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.round_trip import ends_paragraph
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity

_STRANGE = frozenset(
    "option optgroup frame frameset head body html caption col colgroup tbody td tfoot th thead tr".split()
)
"""Elements that stand alone, or nowhere, as far as browsers are concerned."""
_WHITE = " \t\n\f\r"


def run(state: State) -> None:
    """Put text and text-level elements that stand outside blocks into paragraphs, a gap between all blocks."""
    record = state.record
    if record.loose_text == "keep":
        return
    state.settle()
    root = state.tree.root
    changes: list[Change] = []
    blocks: list[list[Node]] = []
    line: list[Node] = []
    for child in [*root.children, None]:
        if child is not None and not (type(child) is Element and child.name in BLOCKS):
            line.append(child)
            continue
        blocks += _blocks(state, line, changes)
        line = []
        if child is not None:
            blocks.append([child])
    gap = record.block_gap
    children: list[Node] = []
    for block in blocks:
        children += [Text(gap)] if gap and children else []
        children += block
    if [*map(_seen, children)] == [*map(_seen, root.children)]:
        return
    if not changes and blocks:
        message = "White space between blocks is written otherwise. Readers see the same."
        changes.append(state.edits.change("loose-text/gap", message, Severity.NOTE, blocks[0][0]))
    if changes:
        state.edits.rearrange(root, children, changes)


def _blocks(state: State, line: list[Node], changes: list[Change]) -> list[list[Node]]:
    """Return the paragraph of what stands in a line; nothing of what is white space.

    A line that holds what would end the paragraph stays as it is: browsers would not read one around it.
    """
    if not any(type(each) is Element or (type(each) is Text and each.data.strip(_WHITE)) for each in line):
        return [[each] for each in line if type(each) is not Text]
    if _ends_it(line):
        return [_trimmed(line)]
    about = next(each for each in line if type(each) is Element or (type(each) is Text and each.data.strip(_WHITE)))
    paragraph = Element("p")
    paragraph.children = _trimmed(line)
    shows = type(about) is Text or (type(about) is Element and holds_something(about))
    message = "This becomes a paragraph of its own: it stands outside any block."
    severity = Severity.NOTE if shows else Severity.WARNING
    changes.append(state.edits.change("loose-text/paragraph", message, severity, about))
    return [[paragraph]]


def _ends_it(line: list[Node]) -> bool:
    """Tell whether something in a line would end a paragraph around it."""
    stack = [*line]
    while stack:
        node = stack.pop()
        if type(node) is Element:
            if ends_paragraph(node.name) or node.name in _STRANGE:
                return True
            stack += node.children
    return False


def _trimmed(line: list[Node]) -> list[Node]:
    """Return a line without white space at its ends."""
    found = [*line]
    while found and type(found[0]) is Text and not found[0].data.strip(_WHITE):
        del found[0]
    while found and type(found[-1]) is Text and not found[-1].data.strip(_WHITE):
        del found[-1]
    if type(found[0]) is Text:
        found[0] = Text(found[0].data.lstrip(_WHITE), found[0].key, found[0].means)
    if type(found[-1]) is Text:
        found[-1] = Text(found[-1].data.rstrip(_WHITE), found[-1].key, found[-1].means)
    return found


def _seen(node: Node) -> object:
    """Return what of a node tells whether another stands in its place: a text's own text, or the node itself."""
    return node.data if type(node) is Text else id(node)


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.loose_text == "paragraphs":
        yield "text", "What stands outside blocks becomes paragraphs; white space between blocks is written anew."


STEP = Step(
    "loose-text",
    run,
    keys=("loose_text",),
    told=_sentences,
    guide=(
        (
            "`looseText`, `blockGap`",
            "`paragraphs`: text and text-level elements outside blocks are put into paragraphs, and `blockGap` stands "
            "between all blocks",
            "`keep`, a line end",
        ),
    ),
    sample="loose <b>text</b>\n",
)
