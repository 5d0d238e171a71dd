"""A tag that browsers make nothing of."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The tag counts as if it were not there.",
    advice="Take the tag away, or put it where it belongs.",
    bad="<p>Low water at six.</p></div>",
    good="<div><p>Low water at six.</p></div>",
)
_FRAME = frozenset(("html", "head", "body"))
_OF_TABLES = frozenset("td th tr tbody thead tfoot col colgroup caption".split())


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each start or end tag that is not in the tree."""
    for note in subject.piece.parsed.notes:
        if note.kind == "tag-ignored":
            typed = " ".join(subject.typed(note.span).split())
            name = typed.strip("</>").split(" ")[0].lower()
            if name == "noscript" or (name in _FRAME and subject.takes_documents):
                continue  # browsers with scripts end it there; a box takes whole documents
            yield Mistake(note.span, f"Browsers make nothing of {typed[:60]} here: {_why(typed, name)}")


def _why(typed: str, name: str) -> str:
    if not name:
        return "it names no element."
    if typed.startswith("</"):
        return "no element of that name is open."
    if name in _FRAME:
        return "a piece goes into a page that has its own."
    if name == "form":
        return "a form cannot stand in a form. Its fields belong to the first one, which its end tag ends."
    if name in _OF_TABLES:
        return "it belongs inside a table. Its contents stay, without the table."
    return "it cannot stand at this place."
