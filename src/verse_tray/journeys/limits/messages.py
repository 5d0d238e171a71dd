"""What an editor says of a piece that is too large."""

from __future__ import annotations

from bisect import bisect_right

from verse_tray.journeys.limits.use import LimitUse, told
from verse_tray.journeys.snapshot import Snapshot
from verse_tray.markup.references import decode
from verse_tray.markup.tree import Text
from verse_tray.model.findings import Change, Location, Severity
from verse_tray.model.spans import Span
from verse_tray.piece.locations import KnownLocation, TextLocation
from verse_tray.piece.piece import Piece


def refusal(use: LimitUse, stage: str) -> Change:
    """Return what is told of a piece that is refused."""
    message = (
        f"The piece is refused: {told(use)}, and at most {use.most:,} pass. Nothing is saved. Shorten it, or split it "
        "into several."
    )
    return Change("limits/refuse", stage, message, Severity.ERROR)


def overrun(use: LimitUse, stage: str, location: Location | None) -> Change:
    """Return what is told of a text that is cut, or that the editor warns of."""
    size = f"{told(use)}, {use.used - use.most:,} more than fit"
    if use.over == "warn":
        return Change("limits/warn", stage, f"The editor warns of the size: {size}.", Severity.WARNING, location)
    message = f"The piece is cut here: {size}. What follows is lost, wherever in a tag or a word that falls."
    return Change("limits/cut", stage, message, Severity.ERROR, location)


def ends_there(stage: str, sign: str, location: Location | None) -> Change:
    """Return what is told of a text that ends at a character beyond 16 bits."""
    message = (
        f"The piece is cut here: this editor's storage ends a text at the first character beyond 16 bits ({sign}). "
        "What follows is lost. Take such characters out."
    )
    return Change("characters/cut", stage, message, Severity.ERROR, location)


def location_of(piece: Piece, snapshot: Snapshot, at: int, length: int = 0) -> Location | None:
    """Return the place in the author's file of an offset of a snapshot's text: where a cut falls."""
    if snapshot.text is piece.source.text:
        return KnownLocation(Span(at, at + length))
    starts = sorted(snapshot.starts)
    number = bisect_right(starts, at) - 1
    if number >= 0:
        start = starts[number]
        node = snapshot.starts[start]
        if type(node) is Text and (found := _within(piece, node, snapshot.text[start:at])) is not None:
            return found
        span = piece.parsed.places.span(node.key)
        if span is not None and type(node) is not Text and at < start + span.end - span.start:
            return KnownLocation(Span(span.start, span.start))
    return _near(piece, snapshot, starts, number)


def _within(piece: Piece, text: Text, typed: str) -> Location | None:
    """Return the place in a text behind what was stored of it; None where that is not found in it."""
    written = piece.written_view.visible_texts.get(text.key)
    span = piece.parsed.places.span(text.key)
    if written is None or span is None:
        return None
    data, said = written[0], decode(typed, attribute=False)[0]
    if said.startswith(data):  # behind the text, in the tag that follows
        return KnownLocation(Span(span.end, span.end))
    if data.startswith(said):
        at = len(said)
    else:  # its beginning was changed: the last words before the cut tell, where they stand there once
        last = said[-_TELLING:]
        if not last or data.count(last) != 1:
            return KnownLocation(Span(span.start, span.start))
        at = data.index(last) + len(last)
    return TextLocation(piece, text.key, data, Span(at, min(at + 1, len(data))))


_TELLING = 24  # signs by which a place in a text is found again


def _near(piece: Piece, snapshot: Snapshot, starts: list[int], number: int) -> KnownLocation | None:
    """Return the first known place behind a cut, or the last one before it."""
    places = piece.parsed.places
    for start in starts[number + 1 :]:
        if span := places.span(snapshot.starts[start].key):
            return KnownLocation(Span(span.start, span.start))
    for start in reversed(starts[: number + 1]):
        if span := places.span(snapshot.starts[start].key):
            return KnownLocation(Span(span.end, span.end))
    return None
