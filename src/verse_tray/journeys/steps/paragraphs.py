"""Blank lines that become paragraphs, and line ends that become line breaks."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State, holds_something
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import BLOCKS, INVISIBLE
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

_BLANK_LINE = lazy(r"[ \t]*\n[ \t]*\n\s*")
_LINE_END = lazy(r"[ \t]*\n[ \t]*")


def run(state: State) -> None:
    """Make paragraphs of what stands outside blocks, where the profile says so."""
    record = state.record
    if not record.paragraphs:
        return
    root = state.tree.root
    children: list[Node] = []
    run_of: list[Node] = []
    changes: list[Change] = []
    for child in [*root.children, None]:
        if child is not None and not (isinstance(child, Element) and child.name in BLOCKS):
            run_of.append(child)
            continue
        children += _paragraphs(state, run_of, changes)
        run_of = []
        if child is not None:
            children.append(child)
    if changes:
        state.edits.rearrange(root, children, changes)


def _paragraphs(state: State, nodes: list[Node], changes: list[Change]) -> list[Node]:
    """Return what stands outside blocks as paragraphs; white space and what does not show stays as it is."""
    if not any(map(_shows, nodes)):
        return nodes
    made: list[Node] = []
    current: list[Node] = []
    parts: dict[int, tuple[Text, Span]] = {}  # by the id of a part: the text that it is of, and where in it

    def change(rule: str, told: str, severity: Severity, about: Node) -> Change:
        if (part := parts.get(id(about))) is not None:
            return state.edits.text_change(rule, told, severity, *part)
        return state.edits.change(rule, told, severity, about)

    def close() -> None:
        if not any(map(_shows, current)):
            made.extend(current)
            current.clear()
            return
        paragraph = Element("p")
        paragraph.children = _with_breaks(current)
        about = next(filter(_shows, current))
        message = "This becomes a paragraph of its own: it stands outside any, and blank lines end it."
        changes.append(change("paragraphs/made", message, Severity.NOTE, about))
        breaks = sum(type(each) is Element and each.name == "br" and not each.key for each in paragraph.children)
        if breaks:
            count = "a line end in it becomes a line break" if breaks == 1 else f"{breaks} line ends become line breaks"
            told = f"In this paragraph {count}."
            changes.append(change("paragraphs/break", told, Severity.WARNING, about))
        made.append(paragraph)
        current.clear()

    for node in nodes:
        if type(node) is not Text:
            current.append(node)
            continue
        at = 0
        for blank in [*_BLANK_LINE.finditer(node.data), None]:
            end = len(node.data) if blank is None else blank.start()
            if part := node.data[at:end]:
                current.append(Text(part, node.key))
                solid = at + len(part) - len(part.lstrip())
                parts[id(current[-1])] = node, Span(solid, max(solid, at + len(part.rstrip())))
            if blank is not None:
                close()
                made.append(Text("\n"))
                at = blank.end()
    close()
    return made


def _shows(node: Node) -> bool:
    if type(node) is Text:
        return bool(node.data.strip())
    return (
        type(node) is Element
        and node.name not in INVISIBLE - {"iframe", "audio", "video"}
        and (node.name in ("br", "wbr") or holds_something(node))
    )


def _with_breaks(nodes: list[Node]) -> list[Node]:
    """Return the contents of a paragraph: line ends become line breaks, white space at both ends goes."""
    found: list[Node] = []
    last = len(nodes) - 1
    for index, node in enumerate(nodes):
        if type(node) is not Text:
            found.append(node)
            continue
        data = node.data
        data = data.lstrip() if index == 0 else data
        data = data.rstrip() if index == last else data
        first, *others = _LINE_END.split(data)
        if first:
            found.append(Text(first, node.key))
        for part in others:
            after_break = bool(found) and type(found[-1]) is Element and found[-1].name == "br"
            if not after_break:
                found.append(Element("br"))
            found.append(Text("\n" + part, node.key))
    return found


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.paragraphs:
        yield "text", "Blank lines outside blocks become paragraphs, single line ends line breaks."


STEP = Step(
    "paragraphs",
    run,
    keys=("paragraphs",),
    told=_sentences,
    guide=(
        (
            "`paragraphs`",
            "blank lines outside blocks make paragraphs, line ends line breaks",
            "`false`",
        ),
    ),
)
