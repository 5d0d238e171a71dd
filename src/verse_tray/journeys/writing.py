"""How an edited tree becomes stored text."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from sys import intern
from typing import Literal

from verse_tray.editors.filters import Filter
from verse_tray.journeys.edits import Edit
from verse_tray.journeys.snapshot import Snapshot
from verse_tray.journeys.splicing import splice
from verse_tray.journeys.state import State
from verse_tray.markup.parse import browser_serialisation, is_read_as
from verse_tray.markup.references import decode
from verse_tray.markup.retype import retype
from verse_tray.markup.round_trip import reads_back
from verse_tray.markup.serialise import PLAIN, Form, Slash, end_tag, escape_text, holds_raw_text, serialise, start_tag
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Change, Location, Severity
from verse_tray.model.phrasing import first_difference
from verse_tray.model.spans import Span
from verse_tray.piece.locations import KnownLocation, NodeLocation
from verse_tray.piece.source_map import SourceMap, SplicedSourceMap

Writes = Literal["as-typed", "tags-anew", "tokens-anew", "anew"]
"""What is written: what was typed, each tag for itself, each tag and text for itself, or all of it."""


def write(
    snapshot: Snapshot, state: State, writes: Writes, form: Form = PLAIN
) -> tuple[Snapshot, Callable[[], list[Change]]]:
    """Write the tree that a stage has edited, and find out whether a browser reads it back as it is.

    Args:
        snapshot: What the stage was given.
        state: What its steps have worked on.
        writes: Whether to keep what was typed, to write tags one by one, or all of it anew.
        form: How it is written anew.

    Returns:
        The snapshot for the next stage, and a function that tells what writing itself changed.
    """
    tree, source_map, log = state.tree, state.source_map, state.edits.log
    keeps = writes == "as-typed"
    if keeps and snapshot.form is not None:
        form = snapshot.form
    if not log and (keeps or snapshot.form == form):
        snapshot.take_back(tree)
        return snapshot, list
    plain = serialise(tree)
    if keeps and source_map is not None:
        spliced = splice(source_map, log)
        if spliced is not None and is_read_as(spliced.text, tree, plain.markup):
            after, nodes = (
                SplicedSourceMap(source_map, spliced, state.edits.added, _moved(source_map, log)),
                tree.nodes(),
            )
            return Snapshot(spliced.text, tree, lambda: after.starts(nodes), source_map=after), list
    if writes in ("tags-anew", "tokens-anew") and source_map is not None:
        text_too = writes == "tokens-anew"
        typed = _one_by_one(state, source_map, plain.markup, form, text_too=text_too)
        if typed is not None:
            as_it_was = typed.text == snapshot.text
            return typed, lambda: [] if as_it_was else _Differences(state, source_map, form, text_too=text_too).tell()
    written = plain if form == PLAIN else serialise(tree, form)

    def is_read_back() -> bool:
        return reads_back(tree, plain.markup) or is_read_as(plain.markup, tree, plain.markup)

    lent = source_map is not None or form != snapshot.form
    made = Snapshot(written.markup, tree, written.starts, form=form, lent=lent, reads_back=is_read_back)
    return made, lambda: _changes(snapshot, state, written.markup, form, keeps=keeps)


def _one_by_one(state: State, source_map: SourceMap, markup: str, form: Form, *, text_too: bool) -> Snapshot | None:
    """Return what comes of writing each tag for itself; None where browsers would read another tree in it."""
    tree, log = state.tree, state.edits.log
    spliced = splice(source_map, log)
    if spliced is None:
        return None
    text, moved = retype(spliced.text, form, text_too=text_too)
    if not is_read_as(text, tree, markup):
        return None
    after, nodes = SplicedSourceMap(source_map, spliced, state.edits.added, _moved(source_map, log)), tree.nodes()

    def starts() -> dict[int, Node]:
        return {moved[at]: node for at, node in after.starts(nodes).items() if at in moved}

    return Snapshot(text, tree, starts, lent=True)


def form_of(record: Filter) -> Form:
    """Return how a stage writes what it writes anew."""
    slash: Slash = {"plain": "", "slash": " /", "tight-slash": "/"}[record.void_tags]  # type: ignore[assignment]
    return Form(
        record.references,
        slash,
        tuple(record.text_signs.items()),
        tuple(record.value_signs.items()),
        record.attribute_order == "sorted",
        (record.attributes or ()) if record.attribute_order == "listed" else (),
        record.boolean_attributes == "bare",
    )


def _moved(source_map: SourceMap, log: Sequence[Edit]) -> dict[int, int]:
    """Return how far each node that was moved to the front has gone, by its number."""
    moved: dict[int, int] = {}
    at = 0
    for edit in log:
        node = edit.node
        if edit.kind == "front" and isinstance(node, Element) and (whole := source_map.outer_span(node)) is not None:
            for each in (node, *node.children):
                moved[source_map.number(each)] = at - whole.start
            at += whole.end - whole.start
    return moved


def _changes(snapshot: Snapshot, state: State, markup: str, form: Form, *, keeps: bool) -> list[Change]:
    """Return what writing changed beyond the edits."""
    stage, source_map = state.edits.stage, state.source_map
    if source_map is None:  # it was written anew before
        was = snapshot.form or PLAIN
        if form == was or serialise(state.tree, was).markup == markup:
            return []
        message = "Readers see the same."
        if form.slash != was.slash:
            message = f"Tags such as <br> are stored {'with' if form.slash else 'without'} a slash. {message}"
        if (form.text_signs, form.value_signs) != (was.text_signs, was.value_signs):
            message = f"Some signs are stored otherwise. {message}"
        if (form.is_sorted, form.order) != (was.is_sorted, was.order):
            message = f"Attributes are stored in another order. {message}"
        if form.is_bare != was.is_bare:
            message = f"Attributes without a value are stored otherwise. {message}"
        if form.references != was.references:
            message = f"Signs beyond ASCII are stored otherwise: {_REFERENCES[form.references]}. {message}"
        return [Change("writing/references", stage, message, Severity.NOTE)]
    anew = "The markup is written anew, as browsers do"
    if keeps:
        message = f"{anew}: with these changes, the rest as typed would mean another."
        return [Change("writing/anew", stage, message, Severity.NOTE)]
    if source_map.parsed.places.exactness == "exact":
        spliced = splice(source_map, state.edits.log)
        return [] if spliced is not None and spliced.text == markup else _Differences(state, source_map, form).tell()
    if not source_map.parsed.cap_notes and browser_serialisation(source_map.text) == source_map.text:
        return []
    return [Change("writing/anew", stage, f"{anew}.", Severity.NOTE)]


_REFERENCES = {"plain": "as they are", "named": "as named references", "numeric": "as numeric references"}


class _Differences:
    """What writing anew makes of a text beyond the edits, told node by node."""

    def __init__(self, state: State, source_map: SourceMap, form: Form, *, text_too: bool | None = None) -> None:
        """Make ready; ``text_too`` is None where all is written anew, else whether text is beside the tags that are."""
        self.changes: list[Change] = []
        self._text_too = text_too
        self._state = state
        self._map = source_map
        self._form = form
        self._edited = {id(each.node) for each in state.edits.log if each.kind in ("attribute", "rename")}
        self._raw: set[int] = set()
        self._told: set[tuple[str, Span]] = set()  # what browsers make several elements of is told once

    def tell(self) -> list[Change]:
        """Return the changes."""
        for node in self._state.tree.nodes():
            if type(node) is Element:
                self.element(node)
            elif type(node) is Text and self._text_too is not False:
                self.text(node)
        if self._text_too is None:
            self.ignored()
        if not self.changes and not self._state.edits.changes:
            how = "as browsers do" if self._text_too is None else "one by one"
            self.note("anew", f"{'The markup is' if self._text_too is None else 'Tags are'} written anew, {how}.", None)
        return self.changes

    def note(self, rule: str, message: str, location: Location | None) -> None:
        """Add a change, unless the same was told of its place."""
        span = location.span if location else None
        if span is None or (rule, span) not in self._told:
            stage = self._state.edits.stage
            self.changes.append(Change(intern(f"writing/{rule}"), stage, intern(message), Severity.NOTE, location))
        if span is not None:
            self._told.add((rule, span))

    def element(self, element: Element) -> None:
        opening, ending = start_tag(element, self._form), end_tag(element)
        if holds_raw_text(element):
            self._raw.update(id(child) for child in element.children)
        span = self._map.span(element)
        if span is None:
            if self._map.number(element) and self._text_too is None:
                self.note("tag-added", f"{opening} is added: browsers read one here", None)
            return
        location = NodeLocation(self._state.piece, element.key)
        wrote = self._map.text[span.start : span.end]
        if id(element) not in self._edited and wrote != opening:
            self.note("tag", f"{_short(wrote)} is written as {_short(opening)}", location)
        if ending and self._map.end_span(element) is None and self._text_too is None:
            self.note("end-tag-added", f"The end tag {ending} is added", location)

    def text(self, text: Text) -> None:
        span = self._map.span(text)
        if span is None or text.means is not None:
            return
        raw = id(text) in self._raw
        wrote = self._map.text[span.start : span.end]
        markup = text.data if raw else escape_text(text.data, self._form.references, self._form.text_signs)
        # a run that holds more than its own text flowed together around tags, which are told below
        own = markup == wrote or raw or decode(wrote, attribute=False)[0] == text.data
        if own and wrote.replace("\r\n", "\n").replace("\r", "\n") != markup:
            message = f"“{_differing(wrote, markup)}” is written as “{_differing(markup, wrote)}”"
            self.note("text", message, NodeLocation(self._state.piece, text.key))

    def ignored(self) -> None:
        """Tell of the tags that browsers make nothing of."""
        typed = self._map is self._state.piece.source_map
        for wrote, reading in self._map.ignored():
            here = KnownLocation(reading.span) if typed and reading.span is not None else None
            self.note("tag-ignored", f"{_short(wrote)} goes: browsers make nothing of it here", here)


def _differing(text: str, other: str) -> str:
    """Return a few signs of ``text`` from where it first differs from ``other``."""
    at = first_difference(text, other)
    return _short(text[at : at + 24])


def _short(markup: str) -> str:
    markup = " ".join(markup.split())
    return markup if len(markup) <= 60 else f"{markup[:57]}…"
