"""Tags that cannot be traced back to their lines."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.NOTE,
    readers="Nothing: the result is right, but places may be missing from the report.",
    advice="End formatting elements where they were begun, and take code points out that mean nothing.",
    bad="<p>noncharacter: &#xFDD0; \ufdd0</p>",
    good="<p>noncharacter</p>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield the note of the reader, if there is one."""
    message = (
        "Some tags of this piece cannot be traced back to their lines: formatting elements are left open and nested, "
        "or the text holds code points that mean nothing. The result is right; places may be missing."
    )
    return (Mistake(note.span, message) for note in subject.notes("no-positions"))
