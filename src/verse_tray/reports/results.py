"""What a check found, for all formats."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.journeys.engine import Journey
from verse_tray.journeys.piece import Piece
from verse_tray.model.findings import Finding, Verdict


class PieceResult(Struct, frozen=True):
    """One piece, checked against editors."""

    piece: Piece
    """The piece."""
    mistakes: tuple[Finding, ...]
    """Findings about the piece itself."""
    journeys: tuple[Journey, ...]
    """Its journeys, one an editor."""

    @property
    def worst(self) -> Verdict:
        """The worst verdict of all editors."""
        return max((journey.verdict for journey in self.journeys), key=lambda v: v.rank, default=Verdict.INTACT)
