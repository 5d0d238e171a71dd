"""How an edited tree becomes stored text."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from verse_tray.journeys.draft import Draft
from verse_tray.journeys.pen import Stroke
from verse_tray.journeys.splicing import splice
from verse_tray.journeys.state import State
from verse_tray.journeys.typed import Respliced, Typed
from verse_tray.journeys.where import NodePlace, Offset
from verse_tray.markup.parse import browser_serialisation
from verse_tray.markup.references import decode
from verse_tray.markup.serialise import References, end_tag, escape_text, holds_raw_text, serialise, start_tag
from verse_tray.markup.stability import reads_back
from verse_tray.markup.tree import Element, Text
from verse_tray.model.findings import Change, Place, Severity
from verse_tray.model.spans import Span


def write(
    draft: Draft, state: State, writes: Literal["as-typed", "anew"], references: References = "plain"
) -> tuple[Draft, Callable[[], list[Change]]]:
    """Write the tree that a stage has edited, and find out whether a browser reads it back as it is.

    Args:
        draft: What the stage was given.
        state: What its steps have worked on.
        writes: Whether to keep what was typed, or to write all of it anew.
        references: How signs beyond ASCII are written anew.

    Returns:
        The draft for the next stage, and a function that tells what writing itself changed.
    """
    tree, typed, strokes = state.tree, state.typed, state.pen.strokes
    keeps = writes == "as-typed"
    if keeps and draft.references is not None:
        references = draft.references
    if not strokes and (keeps or draft.references == references):
        return draft, list
    plain = serialise(tree)
    if keeps and typed is not None:
        spliced = splice(typed, strokes)
        if spliced is not None and browser_serialisation(spliced.text) == plain.markup:
            after, nodes = Respliced(typed, spliced, state.pen.added, _moved(typed, strokes)), tree.nodes()
            return Draft(spliced.text, tree, lambda: after.starts(nodes), typed=after), list
    written = plain if references == "plain" else serialise(tree, references)

    def is_read_back() -> bool:
        return reads_back(tree, plain.markup) or browser_serialisation(plain.markup) == plain.markup

    lent = typed is not None or references != draft.references
    made = Draft(written.markup, tree, written.starts, references=references, lent=lent, reads_back=is_read_back)
    return made, lambda: _changes(draft, state, written.markup, references, keeps=keeps)


def _moved(typed: Typed, strokes: list[Stroke]) -> dict[int, int]:
    """Return how far each node that was moved to the front has gone, by its number."""
    moved: dict[int, int] = {}
    at = 0
    for stroke in strokes:
        node = stroke.node
        if stroke.kind == "front" and isinstance(node, Element) and (whole := typed.outer_span(node)) is not None:
            for each in (node, *node.children):
                moved[typed.number(each)] = at - whole.start
            at += whole.end - whole.start
    return moved


def _changes(draft: Draft, state: State, markup: str, references: References, *, keeps: bool) -> list[Change]:
    """Return what writing changed beyond the pen's strokes."""
    stage, typed = state.pen.stage, state.typed
    if typed is None:  # it was written anew before
        if references == draft.references or serialise(state.tree, draft.references or "plain").markup == markup:
            return []
        message = "Signs beyond ASCII are stored otherwise: " + _REFERENCES[references] + ". Readers see the same."
        return [Change("writing/references", stage, message, Severity.NOTE)]
    anew = "The markup is written anew, as browsers do"
    if keeps:
        message = f"{anew}: with these changes, the rest as typed would mean another."
        return [Change("writing/anew", stage, message, Severity.NOTE)]
    if typed.parsed.places.exactness == "exact":
        spliced = splice(typed, state.pen.strokes)
        return [] if spliced is not None and spliced.text == markup else _differences(state, typed, references)
    if not typed.parsed.cap_notes and browser_serialisation(typed.text) == typed.text:
        return []
    return [Change("writing/anew", stage, f"{anew}.", Severity.NOTE)]


_REFERENCES = {"plain": "as they are", "named": "as named references", "numeric": "as numeric references"}


def _differences(state: State, typed: Typed, references: References) -> list[Change]:
    """Return a change for every place where writing anew differs from what was typed and kept."""
    piece, tree, stage = state.piece, state.tree, state.pen.stage
    changes: list[Change] = []
    raw: set[int] = set()
    told: set[tuple[str, Span]] = set()  # what browsers make several elements of is told once
    source = typed is piece.typed

    def note(rule: str, message: str, place: Place | None) -> None:
        span = place.span if place else None
        if span is None or (rule, span) not in told:
            changes.append(Change(f"writing/{rule}", stage, message, Severity.NOTE, place))
        if span is not None:
            told.add((rule, span))

    for node in tree.nodes():
        span = typed.span(node)
        place = NodePlace(piece, node.key)
        if type(node) is Element:
            opening, ending = start_tag(node), end_tag(node)
            if holds_raw_text(node):
                raw.update(id(child) for child in node.children)
            if span is None:
                if typed.number(node):
                    note("tag-added", f"{opening} is added: browsers read one here", None)
                continue
            wrote = typed.text[span.start : span.end]
            if not node.edited and wrote != opening:
                note("tag", f"{_short(wrote)} is written as {_short(opening)}", place)
            if ending and typed.end_span(node) is None:
                note("end-tag-added", f"The end tag {ending} is added", place)
        elif type(node) is Text and span is not None and node.means is None:
            wrote = typed.text[span.start : span.end]
            markup = node.data if id(node) in raw else escape_text(node.data, references)
            # a run that holds more than its own text flowed together around tags, which are told below
            own = markup == wrote or id(node) in raw or decode(wrote, attribute=False)[0] == node.data
            if own and wrote.replace("\r\n", "\n").replace("\r", "\n") != markup:
                note("text", f"“{_differing(wrote, markup)}” is written as “{_differing(markup, wrote)}”", place)
    for wrote, reading in typed.ignored():
        here = Offset(reading.span) if source and reading.span is not None else None
        note("tag-ignored", f"{_short(wrote)} goes: browsers make nothing of it here", here)
    if not changes and not state.pen.changes:
        note("anew", "The markup is written anew, as browsers do.", None)
    return changes


def _differing(text: str, other: str) -> str:
    """Return a few signs of ``text`` from where it first differs from ``other``."""
    limit = min(len(text), len(other))
    at = next((i for i in range(limit) if text[i] != other[i]), limit)
    return _short(text[at : at + 24])


def _short(markup: str) -> str:
    markup = " ".join(markup.split())
    return markup if len(markup) <= 60 else f"{markup[:57]}…"
