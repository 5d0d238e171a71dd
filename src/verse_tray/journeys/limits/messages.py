"""What an editor says of a piece that is too large."""

from __future__ import annotations

from verse_tray.journeys.limits.use import LimitUse, told
from verse_tray.journeys.snapshot import Snapshot
from verse_tray.model.findings import Change, Location, Severity
from verse_tray.model.spans import Span
from verse_tray.piece.locations import KnownLocation
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


def location_of(piece: Piece, snapshot: Snapshot, at: int, length: int = 0) -> KnownLocation | None:
    """Return the place in the author's file of an offset of a snapshot's text, or the first known one behind it."""
    return KnownLocation(Span(at, at + length)) if snapshot.text is piece.source.text else _behind(piece, snapshot, at)


def _behind(piece: Piece, snapshot: Snapshot, length: int) -> KnownLocation | None:
    """Return the first place in the author's file of which nothing is left in a text cut at that length."""
    places = piece.parsed.places
    starts = snapshot.starts
    for at in sorted(at for at in starts if at >= length):
        if span := places.span(starts[at].key):
            return KnownLocation(Span(span.start, span.start))
    return None
