"""What a check found, for all formats."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.checks import Found
from verse_tray.journeys.engine import Journey
from verse_tray.journeys.piece import Piece
from verse_tray.model.findings import Finding, Severity, Verdict


class PieceResult(Struct, frozen=True):
    """One piece, checked against editors."""

    piece: Piece
    """The piece."""
    found: tuple[Found, ...]
    """Mistakes in the piece itself."""
    journeys: tuple[Journey, ...]
    """Its journeys, one an editor."""

    @property
    def mistakes(self) -> tuple[Finding, ...]:
        """Findings about the piece itself."""
        return tuple(found.finding for found in self.found)

    @property
    def mistakes_verdict(self) -> Verdict:
        """What the mistakes count for: an error as damage, a warning as a rewriting, notes as nothing."""
        ranks = {finding.severity for finding in self.mistakes}
        if Severity.ERROR in ranks:
            return Verdict.DAMAGED
        return Verdict.REWRITTEN if Severity.WARNING in ranks else Verdict.INTACT

    @property
    def worst(self) -> Verdict:
        """The worst verdict of all editors, and of the mistakes."""
        verdicts = [journey.verdict for journey in self.journeys]
        return max([*verdicts, self.mistakes_verdict], key=lambda verdict: verdict.rank)
