"""What came up while the piece was read: limits, ignored and unfinished tags."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.journeys.piece import Piece
from verse_tray.markup.caps import DEEPEST, MOST_ATTRIBUTES, MOST_FORMATTING
from verse_tray.model.findings import Finding, Severity

_SAID = {
    "too-deep": (
        Severity.ERROR,
        f"More than {DEEPEST} elements stand inside one another here; browsers stop there too, and what is deeper "
        "is read as if its tags were not there. End tags are probably missing.",
    ),
    "too-many-attributes": (
        Severity.ERROR,
        f"This tag has more than {MOST_ATTRIBUTES:,} attributes; it is read as if it were not "
        "there. A quote is probably missing.",
    ),
    "formatting-pile": (
        Severity.ERROR,
        f"More than {MOST_FORMATTING} formatting elements (b, i, a, font …) are open at once here; the next are read "
        "as if they were not there. Their end tags are probably missing.",
    ),
    "tag-unfinished": (
        Severity.ERROR,
        "This tag never ends, so browsers throw it away with all that follows. A closing > or quote is missing.",
    ),
    "no-positions": (
        Severity.NOTE,
        "Some tags of this piece cannot be traced back to their lines: formatting elements are left open and nested, "
        "or the text holds code points that mean nothing. The result is right; places may be missing.",
    ),
}


def check(piece: Piece) -> Iterator[Finding]:
    """Yield a finding for each note of the reader."""
    for note in piece.parsed.notes:
        if note.kind == "tag-ignored":
            assert note.span is not None
            typed = " ".join(piece.source.slice(note.span).split())
            severity = Severity.WARNING
            message = f"Browsers make nothing of {typed[:60]} here: {_why(typed)}"
        else:
            severity, message = _SAID[note.kind]
        line, column = (None, None) if note.span is None else piece.source.place(note.span.start)
        yield Finding(f"reading/{note.kind}", "written", message, line, column, severity)


def _why(typed: str) -> str:
    name = typed.strip("</>").split(" ")[0].lower()
    if not name:
        return "it names no element."
    if typed.startswith("</"):
        return "no element of that name is open."
    if name in ("html", "head", "body"):
        return "a piece goes into a page that has its own."
    if name in ("td", "th", "tr", "tbody", "thead", "tfoot", "col", "colgroup", "caption"):
        return "it belongs inside a table. Its contents stay, without the table."
    return "it cannot stand at this place."
