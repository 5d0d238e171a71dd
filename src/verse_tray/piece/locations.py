"""Places in the author's file, kept as what they are about and worked out when asked for."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.markup.names import fold_name
from verse_tray.markup.references import decode
from verse_tray.model.findings import Change
from verse_tray.model.spans import Span
from verse_tray.piece.piece import Piece


def key_of(change: Change) -> int | None:
    """Return the key of the node that a change is about; None for one that is about a place in the text only."""
    return getattr(change.location, "key", None)


class KnownLocation(Struct, frozen=True):
    """A place that is known."""

    span: Span
    """The place."""


class NodeLocation(Struct, frozen=True):
    """A start tag, a text or a comment."""

    piece: Piece
    key: int

    @property
    def span(self) -> Span | None:
        """Its place."""
        return self.piece.parsed.places.span(self.key)


class TextLocation(Struct, frozen=True):
    """A part of a text."""

    piece: Piece
    key: int
    data: str
    """The text as the editor had it."""
    part: Span
    """The part, offsets in ``data``."""

    @property
    def span(self) -> Span | None:
        """Place of the part, or of the whole text when it is no longer what was written."""
        whole = self.piece.parsed.places.span(self.key)
        return None if whole is None else _part(self.piece, whole, self.data, self.part, attribute=False) or whole


class AttributeLocation(Struct, frozen=True):
    """An attribute, or a part of its value."""

    piece: Piece
    key: int
    name: str
    """Name of the attribute."""
    value: str = ""
    """Its value, when a part of it is meant."""
    part: Span | None = None
    """The part, offsets in ``value``."""

    @property
    def span(self) -> Span | None:
        """Place of the part, or of the attribute, or of its tag."""
        attribute = self.piece.source_map.attributes(self.key).get(fold_name(self.name))
        if attribute is None:
            return self.piece.parsed.places.span(self.key)
        if self.part is None or attribute.value is None:
            return attribute.whole
        return _part(self.piece, attribute.value, self.value, self.part, attribute=True) or attribute.whole


def _part(piece: Piece, whole: Span, data: str, part: Span, *, attribute: bool) -> Span | None:
    decoded, offsets = decode(piece.source.slice(whole), attribute=attribute)
    if decoded != data:
        return None
    start, end = part if offsets is None else (offsets[part.start], offsets[part.end])
    return Span(whole.start + start, whole.start + end)
