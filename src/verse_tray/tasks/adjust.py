"""Setting the values of a piece that are worth changing."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct

from verse_tray.edit.acceptable import refuse_mistakes
from verse_tray.edit.adjust import convert_colours, named_in, set_on, set_values
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding
from verse_tray.model.inputs import hold_text
from verse_tray.piece.piece import Piece
from verse_tray.style.colours import Form
from verse_tray.tasks.fill import fixed_values


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
    notes: tuple[str, ...] = ()
    """What was mended in the values."""
    findings: tuple[Finding, ...] = ()
    """What is worth a look in the piece now and was not before."""


def adjust(piece: Piece, request: AdjustRequest) -> Adjusted:
    """Set values in a piece, and nothing else of it.

    Raises:
        InputError: there is no such value or element, or a new value cannot stand in its place.
    """
    source = piece.source
    text, count = source.text, None
    told: list[str] = []
    if request.on is not None:
        if not request.settings:
            raise InputError("--on says where; say what with --set, such as --on li --set margin-bottom=8px.")
        text, count = set_on(piece, request.on, request.settings, told)
    elif request.settings:
        text = set_values(piece, request.settings, told)
    if request.colours is not None:
        text = convert_colours(Piece(source.edited(text)), request.colours)
    after = Piece(source.edited(text))
    what = "--set" if request.settings else "--colours"
    return Adjusted(text, count, tuple(told), tuple(refuse_mistakes(piece, after, what)))


def read_settings(piece: Piece, given: Iterable[str], *, on: str | None) -> dict[str, str]:
    """Return what ``--set`` says: names and values of now can hold an equals sign themselves.

    Raises:
        InputError: one of them has no equals sign.
    """
    settings: dict[str, str] = {}
    for each in given:
        name = None if on is not None else named_in(piece, each)
        if name is None:
            settings |= fixed_values([each])
        else:
            settings[name] = hold_text(each[each.index(name) + len(name) :].lstrip()[1:], f"--set {name}")
    return settings
