"""More formatting elements open at once than are read."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.parser_limits import MOST_ANEW, MOST_FORMATTING
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="Tags beyond the limit count as if they were not there.",
    advice="Add the end tags that are missing.",
    bad="<b>" * (MOST_FORMATTING + 2) + "x",
    good="<b>x</b>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield the note of the reader, if there is one."""
    message = (
        f"More than {MOST_FORMATTING} formatting elements (b, i, a, font …) are open at once here, or were made anew "
        f"{MOST_ANEW:,} times before; what adds to them is read as if it were not there. Their end tags are probably "
        "missing."
    )
    return (Mistake(note.span, message) for note in subject.notes("formatting-pile"))
