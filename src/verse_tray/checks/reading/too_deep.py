"""More elements inside one another than browsers build."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.parser_limits import DEEPEST
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="Tags beyond the limit count as if they were not there.",
    advice="Add the end tags that are missing.",
    bad="<div>" * (DEEPEST + 2),
    good="<div>low water</div>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield the note of the reader, if there is one."""
    message = (
        f"More than {DEEPEST} elements stand inside one another here; browsers stop there too, and what is deeper is "
        "read as if its tags were not there. End tags are probably missing."
    )
    return (Mistake(note.span, message) for note in subject.notes("too-deep"))
