"""References to holders and fields, filled in when the page is built."""

from __future__ import annotations

import re
from collections.abc import Iterator

from msgspec import Struct

from verse_tray.editors.building import Fill
from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import HTML, INVISIBLE, RAW_TEXT
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.round_trip import ends_paragraph
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.spans import Span


def run(state: State) -> None:
    """Fill in what the profile knows, and deal with what it does not know."""
    record = state.record
    if record.fill is None:
        return
    marks = _Marks(
        record.fill, re.compile(f"{re.escape(record.fill.opening)}(.{{1,80}}?){re.escape(record.fill.closing)}")
    )
    state.settle()
    raw = {id(child) for element in state.elements if element.name in RAW_TEXT for child in element.children}
    paragraphs = _in_paragraphs(state) if record.fill.holders else frozenset()
    for node in list(state.nodes):
        if type(node) is Text:
            _text(state, marks, node, raw=id(node) in raw, in_paragraph=id(node) in paragraphs)
        elif type(node) is Element:
            for name, value in list(node.attributes.items()):
                _attribute(state, marks, node, name, value)
    state.settle()


def _in_paragraphs(state: State) -> frozenset[int]:
    """Return the texts, by ``id``, that stand in a paragraph which a block would end."""
    found: set[int] = set()
    stack: list[Node] = [each for each in state.elements if each.name == "p"]
    while stack:
        node = stack.pop()
        if type(node) is Text:
            found.add(id(node))
        elif type(node) is Element and id(node) not in found and node.name not in _BOUNDS:
            found.add(id(node))
            stack += node.children
    return frozenset(found)


_BOUNDS = frozenset("button object applet marquee table td th caption template svg math".split())
"""Elements in which a paragraph outside is out of reach (HTML standard, 13.2.4.2, "button scope")."""


class _Marks(Struct, frozen=True):
    """What the marks look like, and what stands for them."""

    fill: Fill
    form: re.Pattern[str]

    def found(self, text: str) -> list[tuple[re.Match[str], str, str]]:
        """Return every mark: the match, its name, and ``value``, ``holder`` or ``unknown``."""
        if self.fill.opening not in text:
            return []
        rows = []
        for match in self.form.finditer(text):
            name = match[1].strip()
            kind = "value" if name in self.fill.values else "holder" if name in self.fill.holders else "unknown"
            rows.append((match, name, kind))
        return rows


def _unknown(state: State, marks: _Marks, change: Change) -> None:
    """Say what becomes of a mark that nobody knows and that is not blanked."""
    if change not in state.notices:
        state.notices.append(change)
    if marks.fill.unknown == "error":
        state.stops = True


def _told(marks: _Marks, mark: str, kind: str, value: str = "") -> tuple[str, str, Severity]:
    if kind == "value":
        return "fill/field", f"{mark} is filled in: “{value}”.", Severity.NOTE
    if kind == "holder":
        return "fill/holder", f"{mark} becomes what the holder of that name keeps; no rule touches that.", Severity.NOTE
    effect = {
        "leave": "it stays as it is, and readers see it",
        "blank": "nothing stands in its place",
        "error": "the page is not built",
    }[marks.fill.unknown]
    return (
        "fill/unknown",
        f"{mark} names neither a field nor a holder: {effect}. Check its spelling, or take it out.",
        Severity.ERROR,
    )


def _text(state: State, marks: _Marks, text: Text, *, raw: bool, in_paragraph: bool) -> None:
    nodes: list[Node] = []
    changes: list[Change] = []
    at = 0
    for match, name, kind in marks.found(text.data):
        value = marks.fill.values.get(name, "")
        change = state.edits.text_change(*_told(marks, match[0], kind, value), text, Span(*match.span()))
        if kind == "unknown" and marks.fill.unknown != "blank":
            _unknown(state, marks, change)
            continue
        changes.append(change)
        front = text.data[at : match.start()]
        if kind == "holder":
            kept = marks.fill.holders[name]
            held: list[Node] = [Text(kept, 0, "")] if raw else _held(kept)
            if in_paragraph and (block := next(filter(_is_block, held), None)) is not None:
                state.notices.append(_split(state, text, Span(*match.span()), match[0], block))
            nodes += _speaking(held, text, front, match[0])
        else:
            nodes += [Text(front, text.key)] if front else []
            nodes.append(Text(value, text.key, match[0] if kind == "value" else None))
        at = match.end()
    if changes:
        if at < len(text.data):
            nodes.append(Text(text.data[at:], text.key))
        state.edits.replace(text, nodes, changes, raw=raw)


def _speaking(held: list[Node], text: Text, front: str, mark: str) -> list[Node]:
    """Return what stands in front of a mark and what is put there; a text of it speaks for the mark."""
    stack: list[Node] = held[::-1]
    while stack:
        node = stack.pop()
        if type(node) is Text and node.data.strip():
            node.key, node.means = text.key, mark
            return [*([Text(front, text.key)] if front else []), *held]
        if type(node) is Element and node.name not in INVISIBLE:
            stack += node.children[::-1]
    return [Text(front, text.key, front + mark), *held]


def _is_block(node: Node) -> bool:
    return type(node) is Element and node.namespace == HTML and ends_paragraph(node.name)


def _split(state: State, text: Text, span: Span, mark: str, block: Node) -> Change:
    assert isinstance(block, Element)
    alone = text.data.strip() == mark
    after = "an empty one stays on either side" if alone else "what follows stands in none"
    message = (
        f"{mark} becomes a <{block.name}>, which cannot stand in a paragraph: browsers end the paragraph before it, "
        f"and {after}. Put the mark between paragraphs."
    )
    return state.edits.text_change("fill/splits", message, Severity.NOTE if alone else Severity.WARNING, text, span)


def _held(markup: str) -> list[Node]:
    """Return what a holder keeps; none of it is the author's, and none of it leaked."""
    tree = parse_fragment(markup).take_tree()
    for node in tree.nodes():
        node.key = 0
        if type(node) is Text:
            node.means = ""
    return tree.root.children


def _attribute(state: State, marks: _Marks, element: Element, name: str, value: str) -> None:
    pieces = []
    changes: list[Change] = []
    at = 0
    for match, field, kind in marks.found(value):
        filled = marks.fill.values.get(field, "")
        kind = "unknown" if kind == "holder" else kind  # markup has no place in an attribute
        told = _told(marks, match[0], kind, filled)
        change = state.edits.attribute_change(*told, element, name, Span(*match.span()))
        if kind == "unknown" and marks.fill.unknown != "blank":
            _unknown(state, marks, change)
            continue
        changes.append(change)
        pieces += [value[at : match.start()], filled]
        at = match.end()
    if changes:
        state.edits.set_attribute(element, name, "".join([*pieces, value[at:]]), changes)


_UNKNOWN = {"leave": "stay as they are", "blank": "are left out", "error": "keep the page from being built"}


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if (fill := record.fill) is not None:
        mark = f"{fill.opening}name{fill.closing}"
        known = ", ".join([*fill.values, *(f"{name} (a holder of code)" for name in fill.holders)])
        yield "marks", f"{mark} is filled in. Known: {known or 'none'}. Others {_UNKNOWN[fill.unknown]}."


STEP = Step(
    "fill",
    run,
    keys=("fill",),
    told=_sentences,
    guide=(
        (
            "`fill`",
            "marks that are filled in: `opening`, `closing` (`{{` and `}}`), `values` (texts by name), "
            "`holders` (raw markup by name), `unknown`: `leave`, `blank`, `error`",
            "none",
        ),
    ),
    sample="<p>[[shop]] and [[tide-clock]]</p>\n",
)
