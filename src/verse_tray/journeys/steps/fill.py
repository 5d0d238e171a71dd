"""References to holders and fields, filled in when the page is built."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from verse_tray.editors.profile import Fill, Publish
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.markup.names import RAW_TEXT
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Severity
from verse_tray.model.spans import Span


def run(state: State) -> None:
    """Fill in what the profile knows, and deal with what it does not know."""
    record = state.record_as(Publish)
    if record is None or record.fill is None:
        return
    marks = _Marks(
        record.fill, re.compile(f"{re.escape(record.fill.opening)}(.{{1,80}}?){re.escape(record.fill.closing)}")
    )
    state.settle()
    raw = {id(child) for element in state.elements if element.name in RAW_TEXT for child in element.children}
    for node in list(state.nodes):
        if type(node) is Text:
            _text(state, marks, node, raw=id(node) in raw)
        elif type(node) is Element:
            for name, value in list(node.attributes.items()):
                _attribute(state, marks, node, name, value)
    state.settle()


class _Marks(NamedTuple):
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


def _text(state: State, marks: _Marks, text: Text, *, raw: bool) -> None:
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
        if kind == "holder":  # the mark is spoken for by the text in front of it
            held = marks.fill.holders[name]
            nodes += [Text(front, text.key, front + match[0]), *([Text(held, 0, "")] if raw else _held(held))]
        else:
            nodes += [Text(front, text.key)] if front else []
            nodes.append(Text(value, text.key, match[0] if kind == "value" else None))
        at = match.end()
    if changes:
        if at < len(text.data):
            nodes.append(Text(text.data[at:], text.key))
        state.edits.replace(text, nodes, changes, raw=raw)


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


def _sentences(record: Publish) -> Iterator[tuple[str, str]]:
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
            "`publish.fill`",
            "marks that are filled in: `opening`, `closing` (`{{` and `}}`), `values` (texts by name), "
            "`holders` (raw markup by name), `unknown`: `leave`, `blank`, `error`",
            "none",
        ),
    ),
    sample="<p>[[shop]] and [[tide-clock]]</p>\n",
)
