"""A tag with more attributes than are read."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.parser_limits import MOST_ATTRIBUTES
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The tag counts as if it were not there.",
    advice="Add the quote that is missing.",
    bad="<br " + " ".join(f"a{number}" for number in range(MOST_ATTRIBUTES + 1)) + ">",
    good="<p>x</p>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield the note of the reader, if there is one."""
    message = (
        f"This tag has more than {MOST_ATTRIBUTES:,} attributes; it is read as if it were not there. A quote is "
        "probably missing."
    )
    return (Mistake(note.span, message) for note in subject.notes("too-many-attributes"))
