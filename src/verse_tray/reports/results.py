"""What a check found, for all formats."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from msgspec import Struct

from verse_tray.checks.find import Found
from verse_tray.journeys.journey import Journey
from verse_tray.model.findings import Finding, Severity, Verdict
from verse_tray.piece.piece import Piece

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered


class PieceResult(Struct, frozen=True):
    """One piece, checked against editors."""

    piece: Piece
    """The piece."""
    found: tuple[Found, ...]
    """Mistakes in the piece itself."""
    journeys: tuple[Journey, ...]
    """Its journeys, one an editor."""
    rendered: Mapping[str, Rendered] = {}
    """What a browser saw, by the editor's name; of the piece itself under the empty name. Empty where none looked."""

    @property
    def mistakes(self) -> tuple[Finding, ...]:
        """Findings about the piece itself."""
        return (*(found.finding for found in self.found), *self.noticed(""))

    def noticed(self, editor: str) -> tuple[Finding, ...]:
        """Return what a browser saw in an editor's page."""
        rendered = self.rendered.get(editor)
        return () if rendered is None else tuple(rendered.findings)

    def findings(self, journey: Journey) -> tuple[Finding, ...]:
        """Return the findings of a journey, and what a browser saw of it."""
        return (*journey.findings, *self.noticed(journey.editor.name))

    def verdict(self, journey: Journey | None) -> Verdict:
        """Return what a journey counts for, or the piece itself for None.

        Of mistakes and of what a browser saw, an error counts as damage, a warning as a rewriting, notes as nothing.
        """
        told = self.mistakes if journey is None else self.noticed(journey.editor.name)
        ranks = {finding.severity for finding in told}
        own = Verdict.DAMAGED if Severity.ERROR in ranks else Verdict.INTACT
        if own is Verdict.INTACT and Severity.WARNING in ranks:
            own = Verdict.REWRITTEN
        return own if journey is None else max(own, journey.verdict, key=lambda verdict: verdict.rank)

    @property
    def worst(self) -> Verdict:
        """The worst verdict of all editors, and of the mistakes."""
        return max((self.verdict(each) for each in (None, *self.journeys)), key=lambda verdict: verdict.rank)
