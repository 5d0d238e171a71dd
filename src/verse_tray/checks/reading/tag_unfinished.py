"""A tag that the end of the piece cuts short."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The tag and all that follows are missing from the page.",
    advice="Add the closing > or the quote that is missing.",
    bad='<p>Low water at six.</p><a href="https://gannetcove.example/walks',
    good='<p>Low water at six.</p><a href="https://gannetcove.example/walks">Walks</a>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield the note of the reader, if there is one."""
    message = "This tag never ends, so browsers throw it away with all that follows. A closing > or quote is missing."
    return (Mistake(note.span, message) for note in subject.notes("tag-unfinished"))
