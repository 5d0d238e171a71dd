"""A whole document where a fragment belongs."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tokens import Kind
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The page has a doctype, head and body of its own, so these tags go; a title in it shows as text in "
    "places.",
    advice="Paste what stands in the body, with the styles: verse-tray join FILE takes the document apart.",
    bad="<!DOCTYPE html><html><head><title>Walks</title></head><body><p>Low water at six.</p></body></html>",
    good="<p>Low water at six.</p>",
)
_FRAME = frozenset(("html", "head", "body"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield one mistake for all tags that make a document."""
    if subject.takes_documents:
        return
    boxed = [site.editor for site in subject.sites if site.boxed]
    besides = f" (but for the box of {listed(boxed)})" if boxed else ""
    first = None
    covered = []
    for kind, start, end, name, _ in subject.tokens:
        if kind is Kind.DOCTYPE or (kind in (Kind.START, Kind.END) and name in _FRAME):
            first = first or (Span(start, end) if kind is not Kind.END else None)
            covered.append(Span(start, end))
    if first is not None:
        what = " ".join(subject.typed(first)[:40].split())
        yield Mistake(
            first,
            f"This is a whole document ({what} …), and an editor's page has its own{besides}: "
            "these tags are ignored. Paste what stands in the body, with its styles; verse-tray join FILE takes a "
            "document apart.",
            covers=tuple(covered),
        )
