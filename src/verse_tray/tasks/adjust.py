"""Setting the values of a piece that are worth changing."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.edit.adjust import convert_colours, set_on, set_values
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece
from verse_tray.style.colours import Form


class AdjustRequest(Struct, frozen=True):
    """What is set."""

    settings: dict[str, str] = {}
    """Values by their names, or by what they are now; with ``on`` declarations, or attributes with @ in front."""
    on: str | None = None
    """Selector of the elements on which they are set."""
    colours: Form | None = None
    """Form in which every colour is written."""


class Adjusted(Struct, frozen=True):
    """A piece with other values."""

    text: str
    """Its text."""
    count: int | None
    """Elements on which something was set; None where no selector was given."""


def adjust(piece: Piece, request: AdjustRequest) -> Adjusted:
    """Set values in a piece, and nothing else of it.

    Raises:
        InputError: there is no such value or element, or a new value cannot stand in its place.
    """
    source = piece.source
    text, count = source.text, None
    if request.on is not None:
        if not request.settings:
            raise InputError("--on says where; say what with --set, such as --on li --set margin-bottom=8px.")
        text, count = set_on(piece, request.on, request.settings)
    elif request.settings:
        text = set_values(piece, request.settings)
    if request.colours is not None:
        text = convert_colours(
            Piece(Source(text, source.name, source.encoding, source.byte_order_mark)), request.colours
        )
    return Adjusted(text, count)
