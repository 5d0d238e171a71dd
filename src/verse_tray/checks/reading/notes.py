"""Notes of the reader, by kind: what several rules of this group begin with."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake
from verse_tray.piece.subject import Subject


def told(subject: Subject, kind: str, message: str) -> Iterator[Mistake]:
    """Yield a mistake for each note of a kind."""
    for note in subject.piece.parsed.notes:
        if note.kind == kind:
            yield Mistake(note.span, message)
