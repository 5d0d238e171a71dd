"""A pen's strokes as splices of the text that the author typed."""

from __future__ import annotations

from verse_tray.journeys.pen import Stroke
from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import fold_name
from verse_tray.markup.serialise import escape_attribute, escape_text
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element
from verse_tray.model.spans import Span

_SPACE = "\t\n\f\r "


def splice(piece: Piece, strokes: list[Stroke]) -> Spliced | None:
    """Make the edits of a tree in the author's text.

    Returns:
        The text; None when an edit has no place of its own in it: an element that browsers added, or one of several
        that a misnested tag was made into.
    """
    if piece.parsed.places.exactness != "exact":
        return None
    splices: list[Splice] = []
    fated: set[int] = set()
    for stroke in strokes:
        span = piece.parsed.places.span(stroke.node.key)
        if span is None or (stroke.fate and span.start in fated):
            return None
        if stroke.fate:
            fated.add(span.start)
            splices += _fate(piece, stroke, span)
        else:
            splices.append(_attribute(piece, stroke))
    try:
        return Spliced(piece.source.text, splices)
    except ValueError:  # elements that overlap in the text, as misnested formatting does
        return None


def _fate(piece: Piece, stroke: Stroke, span: Span) -> list[Splice]:
    node = stroke.node
    if not isinstance(node, Element):
        return [Splice(span, "")]
    if stroke.fate == "drop":
        return [Splice(piece.outer_span(node) or span, "")]
    opening, closing = (escape_text(text) for text in stroke.texts)
    splices = [Splice(span, opening)]
    if end := piece.parsed.end_spans.get(node.key):
        splices.append(Splice(end, closing))
    return splices


def _attribute(piece: Piece, stroke: Stroke) -> Splice:
    place = piece.attributes(stroke.node.key)[fold_name(stroke.attribute)]
    if stroke.value is not None:
        typed = piece.source.slice(place.name)
        return Splice(place.whole, f'{typed}="{escape_attribute(stroke.value)}"')
    text, start = piece.source.text, place.whole.start
    while text[start - 1] in _SPACE:
        start -= 1
    return Splice(Span(start, place.whole.end), "")
