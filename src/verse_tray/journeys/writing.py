"""How an edited tree becomes stored text."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import Literal

from verse_tray.journeys.pen import Pen
from verse_tray.journeys.piece import Piece
from verse_tray.journeys.splicing import splice
from verse_tray.journeys.where import NodePlace, Offset
from verse_tray.markup.parse import browser_serialisation
from verse_tray.markup.references import decode
from verse_tray.markup.serialise import end_tag, escape_text, holds_raw_text, serialise, start_tag
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.findings import Change, Place, Severity
from verse_tray.model.spans import Span


class Stored:
    """Text as it is stored, with the tree that a browser reads in it as far as that is known."""

    def __init__(
        self,
        text: str,
        tree: Tree | None,
        starts: Callable[[], dict[int, Node]],
        changes: Callable[[], list[Change]] = list,
    ) -> None:
        self.text = text
        """The text."""
        self.tree = tree
        """The tree, when a browser reads this text as just that; None when it has to be parsed again."""
        self._starts = starts
        self.changes = changes
        """Returns what writing itself changed; worked out when asked for."""

    @cached_property
    def starts(self) -> dict[int, Node]:
        """The node that begins at each offset of the text."""
        return self._starts()


def store(piece: Piece, pasted: str, tree: Tree, pen: Pen, writes: Literal["as-typed", "anew"]) -> Stored:
    """Write an edited tree as the profile says, and find out whether a browser reads it back as it is.

    Args:
        piece: The piece.
        pasted: What was pasted: the piece's text, or what a limit left of it.
        tree: The edited tree.
        pen: The pen that edited it.
        writes: Whether to keep what was typed, or to write all of it anew.
    """
    if writes == "as-typed" and not pen.strokes:
        return Stored(pasted, tree, lambda: written_starts(piece, tree))
    written = serialise(tree)
    whole = pasted == piece.source.text and not piece.parsed.cap_notes
    if writes == "as-typed":
        spliced = splice(piece, pen.strokes) if whole else None
        if spliced is not None and browser_serialisation(spliced.text) == written.markup:
            by_place = written_starts(piece, tree)
            return Stored(spliced.text, tree, lambda: {spliced.new_offset(at): node for at, node in by_place.items()})
    settled = tree if browser_serialisation(written.markup) == written.markup else None
    typed_is_kept = writes == "as-typed"
    return Stored(
        written.markup,
        settled,
        written.starts,
        lambda: _changes(piece, pasted, tree, pen, written.markup, typed_is_kept),
    )


def written_starts(piece: Piece, tree: Tree) -> dict[int, Node]:
    """Return the node that begins at each offset of the author's text, as far as it is still in ``tree``."""
    places = piece.parsed.places
    starts = ((places.start(node.key), node) for node in tree.nodes())
    return {start: node for start, node in starts if start >= 0}


def _changes(piece: Piece, pasted: str, tree: Tree, pen: Pen, markup: str, typed_is_kept: bool) -> list[Change]:
    """Return what writing changed beyond the pen's strokes."""
    if typed_is_kept:
        message = (
            "The markup is written anew, as browsers do: with these changes, the rest as typed would mean another."
        )
        return [Change("writing/anew", "save", message, Severity.NOTE)]
    if piece.parsed.places.exactness == "exact":
        spliced = splice(piece, pen.strokes)
        return [] if spliced is not None and spliced.text == markup else _differences(piece, tree)
    if not piece.parsed.cap_notes and browser_serialisation(pasted) == pasted:
        return []
    return [Change("writing/anew", "save", "The markup is written anew, as browsers do.", Severity.NOTE)]


def _differences(piece: Piece, tree: Tree) -> list[Change]:
    """Return a change for every place where writing anew differs from what was typed and kept."""
    places, ends = piece.parsed.places, piece.parsed.end_spans
    changes: list[Change] = []
    raw: set[int] = set()
    told: set[tuple[str, Span]] = set()  # what browsers make several elements of is told once

    def note(rule: str, message: str, place: Place | None) -> None:
        span = place.span if place else None
        if span is None or (rule, span) not in told:
            changes.append(Change(f"writing/{rule}", "save", message, Severity.NOTE, place))
        if span is not None:
            told.add((rule, span))

    for node in tree.nodes():
        span = places.span(node.key)
        place = NodePlace(piece, node.key)
        if type(node) is Element:
            opening, ending = start_tag(node), end_tag(node)
            if holds_raw_text(node):
                raw.update(id(child) for child in node.children)
            if span is None:
                note("tag-added", f"{opening} is added: browsers read one here", None)
                continue
            typed = piece.source.slice(span)
            if not node.edited and typed != opening:
                note("tag", f"{_short(typed)} is written as {_short(opening)}", place)
            if ending and node.key not in ends:
                note("end-tag-added", f"The end tag {ending} is added", place)
        elif type(node) is Text and span is not None:
            typed = piece.source.slice(span)
            markup = node.data if id(node) in raw else escape_text(node.data)
            # a run that holds more than its own text flowed together around tags, which are told below
            own = markup == typed or id(node) in raw or decode(typed, attribute=False)[0] == node.data
            if own and typed.replace("\r\n", "\n").replace("\r", "\n") != markup:
                note("text", f"“{_differing(typed, markup)}” is written as “{_differing(markup, typed)}”", place)
    for reading in piece.parsed.notes:
        if reading.kind in ("tag-ignored", "tag-unfinished") and reading.span is not None:
            typed = piece.source.slice(reading.span)
            note("tag-ignored", f"{_short(typed)} goes: browsers make nothing of it here", Offset(reading.span))
    if not changes:
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
