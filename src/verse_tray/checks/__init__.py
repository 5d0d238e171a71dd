"""What a piece shows by itself, before any editor has touched it. One rule a file."""

from __future__ import annotations

from verse_tray.checks import bare_code, reading
from verse_tray.journeys.piece import Piece
from verse_tray.model.findings import Finding


def mistakes(piece: Piece) -> tuple[Finding, ...]:
    """Return the findings about a piece itself, by place."""
    return tuple(sorted([*reading.check(piece), *bare_code.check(piece)], key=lambda f: (f.line or 0, f.column or 0)))
