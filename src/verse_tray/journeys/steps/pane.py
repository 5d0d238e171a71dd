"""What the pane does with a paste: markup as plain text, or as rich text, in the visual pane."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.profile import Paste
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.rich_text import as_rich_text
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.tokens import Kind
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity

_LINE_ELEMENTS = {"paragraphs": "p", "divisions": "div"}


def run(state: State) -> None:
    """Take the paste as the pane does; the source pane changes nothing."""
    record = state.record_as(Paste)
    if record is None or record.pane == "source":
        return
    state.anew = True
    if record.pane == "visual-rich":
        as_rich_text(state, record.rich)
        return
    lines = _lines(state)
    if record.lines == "breaks":
        children: list[Node] = []
        for number, line in enumerate(lines):
            children += [Element("br"), *line] if number else line
    else:
        children = []
        for line in lines:
            block = Element(_LINE_ELEMENTS[record.lines])
            block.children = line or [Element("br")]
            children.append(block)
    first = next(iter(state.nodes), None)
    if first is None:
        return
    message = (
        "The visual pane takes the paste as plain text: readers see the tags and references as they are typed. Paste "
        "it into the source pane, if there is one."
    )
    state.edits.rearrange(
        state.tree.root, children, [state.edits.change("pane/as-text", message, Severity.ERROR, first)]
    )


def _lines(state: State) -> list[list[Node]]:
    """Return the typed text by lines: what was text keeps its key, and tags are text of nobody's."""
    assert state.source_map is not None
    source_map = state.source_map
    texts = {
        source_map.parsed.places.start(source_map.number(node)): node for node in state.nodes if type(node) is Text
    }
    lines: list[list[Node]] = [[]]
    for token in source_map.parsed.tokens:
        known = texts.get(token.start) if token.kind is Kind.TEXT else None
        first, *others = source_map.text[token.start : token.end].replace("\r\n", "\n").replace("\r", "\n").split("\n")
        for number, part in enumerate([first, *others]):
            if number:
                lines.append([])
            if part:
                lines[-1].append(Text(part, known.key if known else 0))
    while len(lines) > 1 and not lines[-1]:
        lines.pop()
    return lines


def _sentences(record: Paste) -> Iterator[tuple[str, str]]:
    told = {
        "source": "Into the source pane, which takes the markup as it is.",
        "visual-text": f"Into the visual pane, as plain text: tags show, lines become {record.lines}.",
        "visual-rich": "Into the visual pane, as rich text: what a browser's own editing surface keeps.",
    }
    left = [each for each in Paste().rich if each not in record.rich] if record.pane == "visual-rich" else []
    yield "pane", told[record.pane] + (f" Not so here: {', '.join(left)}." if left else "")


STEP = Step(
    "pane",
    run,
    keys=(
        "pane",
        "lines",
        "rich",
    ),
    told=_sentences,
    guide=(
        (
            "`paste.pane`",
            "`source`; `visual-text`: the visual pane takes markup as plain text; `visual-rich`: it "
            "takes what a browser's editing surface keeps",
            "`source`",
        ),
        (
            "`paste.lines`",
            "what lines of plain text become: `paragraphs`, `divisions`, `breaks`",
            "`paragraphs`",
        ),
        (
            "`paste.rich`",
            "which parts of rich text hold: `styles` (rules of style elements written into elements), `elements` "
            "(those that it takes none of), `code`, `idle` (what says nothing is unwrapped), `spaces`, `ends`",
            "all",
        ),
    ),
    sample="one line\nand another\n\n",
)
