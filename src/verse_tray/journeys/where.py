"""Places in the author's file, kept as what they are about and worked out when asked for."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import fold_name
from verse_tray.markup.references import decode
from verse_tray.model.spans import Span


class Offset(Struct, frozen=True):
    """A place that is known."""

    span: Span
    """The place."""


class NodePlace(Struct, frozen=True):
    """A start tag, a text or a comment."""

    piece: Piece
    key: int

    @property
    def span(self) -> Span | None:
        """Its place."""
        return self.piece.parsed.places.span(self.key)


class AttributePlace(Struct, frozen=True):
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
        attribute = self.piece.attributes(self.key).get(fold_name(self.name))
        if attribute is None:
            return self.piece.parsed.places.span(self.key)
        if self.part is None or attribute.value is None:
            return attribute.whole
        decoded, offsets = decode(self.piece.source.slice(attribute.value), attribute=True)
        if decoded != self.value:
            return attribute.whole
        start, end = self.part if offsets is None else (offsets[self.part.start], offsets[self.part.end])
        return Span(attribute.value.start + start, attribute.value.start + end)
