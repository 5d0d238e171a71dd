"""Changes and findings: what happened to a piece, as data."""

from __future__ import annotations

from enum import StrEnum
from typing import Protocol

from msgspec import Struct

from verse_tray.model.spans import Span

SCRIPT_ASTRAY = "readers/script-astray"
"""The rule that tells of scripts that look for names which the page has not."""


class Severity(StrEnum):
    """How much a reader notices; the words of SARIF 2.1.0 (``level``)."""

    ERROR = "error"
    WARNING = "warning"
    NOTE = "note"

    @property
    def rank(self) -> int:
        """0 for the gravest."""
        return _SEVERITY_RANKS[self]


_SEVERITY_RANKS = {severity: rank for rank, severity in enumerate(Severity)}


class Verdict(StrEnum):
    """What becomes of a piece in one editor; the table is in docs/architecture.md."""

    INTACT = "intact"
    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"

    @property
    def rank(self) -> int:
        """0 for the best."""
        return list(Verdict).index(self)


class Location(Protocol):
    """Something that knows where it stands, and works it out when asked."""

    @property
    def span(self) -> Span | None:
        """Location in the author's file; None when it has none or it cannot be known."""


class Change(Struct, frozen=True):
    """One edit that an editor makes, with its cause and its place."""

    rule: str
    """Name of the step that made it, with the part of the rule behind a slash, such as ``elements/drop``."""
    stage: str
    """Name of the stage in which it happens."""
    message: str
    """What happens and why, in a sentence for the author."""
    severity: Severity
    """How much a reader notices."""
    location: Location | None = None
    """What it is about; None for the piece as a whole."""

    @property
    def span(self) -> Span | None:
        """Where it stands in the author's file; None when the editor added it or its place cannot be known."""
        return None if self.location is None else self.location.span


class Finding(Struct, frozen=True):
    """Something the author should know, with line and column worked out."""

    rule: str
    """Name of the rule."""
    stage: str
    """Stage in which it comes up; ``written`` for what the piece itself shows."""
    message: str
    """One sentence: what, and what it means."""
    line: int | None
    """Line in the author's file, 1-based; None when the editor added it."""
    column: int | None
    """Column in the author's file, 1-based; None when the editor added it."""
    severity: Severity
    """How much a reader notices."""
    cost: int = 0
    """How many of the differences that readers see are charged to it."""
