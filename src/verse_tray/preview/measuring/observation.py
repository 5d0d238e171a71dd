"""Something seen on one page, before it is known on which pages it is."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.model.findings import Severity


class Seen(Struct, frozen=True):
    """Something that a rule noticed."""

    rule: str
    """Name of the rule, behind ``render/``."""
    number: int
    """Number of the element; 0 for the piece as a whole."""
    message: str
    """What it is and what to do, in sentences."""
    severity: Severity
    """How much a reader notices."""
    much: float = 0
    """How bad it is, to tell the worst of the same element; only compared within a rule."""
