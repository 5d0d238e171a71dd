"""How an edited tree becomes stored text."""

from __future__ import annotations

from typing import Literal

from verse_tray.journeys.pen import Pen
from verse_tray.journeys.piece import Piece
from verse_tray.markup.parse import browser_serialisation
from verse_tray.markup.serialise import end_tag, escape_text, holds_raw_text, serialise, start_tag
from verse_tray.markup.splice import Spliced
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.model.findings import Change, Severity


class Stored:
    """Text as it is stored, with the tree that a browser reads in it as far as that is known."""

    def __init__(self, text: str, tree: Tree | None, starts: dict[int, Node], changes: list[Change]) -> None:
        self.text = text
        """The text."""
        self.tree = tree
        """The tree, when a browser reads this text as just that; None when it has to be parsed again."""
        self.starts = starts
        """The node that begins at an offset of the text."""
        self.changes = changes
        """What writing itself changed."""


def store(piece: Piece, pasted: str, tree: Tree, pen: Pen, writes: Literal["as-typed", "anew"]) -> Stored:
    """Write an edited tree as the profile says, and find out whether a browser reads it back as it is."""
    source = piece.source.text
    capped = any(note.kind in ("too-deep", "too-many-attributes", "formatting-pile") for note in piece.parsed.cap_notes)
    if writes == "as-typed" and not pen.strokes:
        return Stored(pasted, tree, {}, [])
    spliced = None
    if pen.spliceable and not capped:
        try:
            spliced = Spliced(source, pen.splices)
        except ValueError:  # two elements that overlap in the text, as misnested formatting does
            spliced = None
    written = serialise(tree)
    if spliced is not None and writes == "as-typed" and browser_serialisation(spliced.text) == written.markup:
        starts = {spliced.new_offset(node.start): node for node in tree.nodes() if node.start >= 0}
        return Stored(spliced.text, tree, starts, [])
    changes: list[Change] = []
    if spliced is None or spliced.text != written.markup:
        if writes == "anew":
            changes = _differences(piece, tree)
        else:
            message = (
                "The markup is written anew as browsers do: after these changes, "
                "the rest as typed would be read differently"
            )
            changes = [Change("writing/anew", "save", message, Severity.NOTE, None)]
    settled = browser_serialisation(written.markup) == written.markup
    return Stored(written.markup, tree if settled else None, written.starts, changes)


def starts_of(stored: Stored, tree: Tree) -> dict[int, Node]:
    """Return the node that begins at each offset of the stored text."""
    if stored.starts or stored.tree is None:
        return stored.starts
    return {node.start: node for node in tree.nodes() if node.start >= 0}


def _differences(piece: Piece, tree: Tree) -> list[Change]:
    """Return a change for every place where writing anew differs from what was typed and kept."""
    source, ends = piece.source.text, piece.parsed.end_spans
    changes: list[Change] = []
    raw: set[int] = set()

    def note(rule: str, message: str, node: Node) -> None:
        changes.append(Change(f"writing/{rule}", "save", message, Severity.NOTE, node.span))

    for node in tree.nodes():
        if type(node) is Element:
            opening, ending = start_tag(node), end_tag(node)
            if node.start < 0:
                note("tag-added", f"{opening} is added: browsers read one here", node)
                continue
            typed = source[node.start : node.end]
            if not node.edited and typed != opening:
                note("tag", f"{_short(typed)} is written as {_short(opening)}", node)
            if ending and node.key not in ends:
                note("end-tag-added", f"The end tag {ending} is added", node)
            if holds_raw_text(node):
                raw.update(id(child) for child in node.children)
        elif type(node) is Text and node.start >= 0:
            typed = source[node.start : node.end]
            markup = node.data if id(node) in raw else escape_text(node.data)
            if typed != markup and typed.replace("\r\n", "\n").replace("\r", "\n") != markup:
                note("text", f"“{_differing(typed, markup)}” is written as “{_differing(markup, typed)}”", node)
    for reading in piece.parsed.notes:
        if reading.kind in ("tag-ignored", "tag-unfinished") and reading.span is not None:
            typed = piece.source.slice(reading.span)
            message = f"{_short(typed)} goes: browsers make nothing of it here"
            changes.append(Change("writing/tag-ignored", "save", message, Severity.NOTE, reading.span))
    if not changes:
        changes.append(Change("writing/anew", "save", "The markup is written anew as browsers do", Severity.NOTE, None))
    return changes


def _differing(text: str, other: str) -> str:
    """Return a few signs of ``text`` from where it first differs from ``other``."""
    limit = min(len(text), len(other))
    at = next((i for i in range(limit) if text[i] != other[i]), limit)
    return _short(text[at : at + 24])


def _short(markup: str) -> str:
    markup = " ".join(markup.split())
    return markup if len(markup) <= 60 else f"{markup[:57]}…"
