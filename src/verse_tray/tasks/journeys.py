"""The journeys of a piece through several editors, without their trees: only those of one are there at a time."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Any

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.piece.piece import Piece
from verse_tray.tasks.side_by_side import SideBySide

MUCH = 40_000
"""Signs, each counted once an editor, that are worth a further process, or making trees anew where they are shown."""


def packed_journey(piece: Piece, editor: Editor, reopened: int = 1) -> dict[str, Any]:
    """Return what a journey comes to, to be unpacked where somebody asks for it."""
    return journey(piece, editor, reopened=reopened).packed()


def journeys_of(piece: Piece, editors: Sequence[Editor], processes: int) -> list[Journey]:
    """Return the journeys of a piece; those of a large one have no trees before somebody asks for them.

    Args:
        piece: The piece.
        editors: The editors.
        processes: How many processes work on it at a time, see :func:`verse_tray.tasks.side_by_side.cores`.
    """
    if len(piece.source.text) * len(editors) <= MUCH:
        return [journey(piece, editor) for editor in editors]
    _ = piece.parsed  # once, before there are several who would
    with SideBySide([partial(packed_journey, piece, editor) for editor in editors], processes) as begun:
        return [Journey.unpacked(piece, editor, begun.result(number)) for number, editor in enumerate(editors)]
