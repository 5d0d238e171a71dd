"""A mark that a template left in: a field that nobody filled, or a note to the author."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import listed
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Readers see the mark itself, or a link leads to it, unless the platform fills it in.",
    advice="Fill it in (verse-tray fill does it from a file), or take it away.",
    bad="<p>Dear {{ first name }}, see you at the slipway.</p>",
    good="<p>Dear volunteers, see you at the slipway.</p>",
)
_MARKS = lazy(
    r"\{\{[^{}\n]{0,60}\}\}|%%[A-Za-z][\w .-]{0,40}%%|\[\[[A-Za-z][^\[\]\n]{0,60}\]\]|\$\{[^{}\n]{1,60}\}"
    r"|<<[A-Z_ ]{2,40}>>"
    r"|\[(?:your|insert|enter|add|replace|name of)\b[^\[\]\n]{0,60}\]|\{(?:your|insert)[^{}\n]{0,60}\}"
    r"|\bYOUR[_-][A-Z][A-Z_-]{1,30}|\blorem ipsum\b|\b(?:TODO|FIXME|TBD)\b(?=\s*:|\s*$)|\A\s*XXX\b(?=\s*:|\s*\Z)",
    re.IGNORECASE,
)
# one of these stands in every mark: most texts hold none, and are not looked through
_NEEDED = ("{", "[", "%%", "<<", "your_", "your-", "lorem", "todo", "fixme", "tbd", "xxx")
_CAPITALS_ONLY = lazy(r"\s*todo|\s*xxx|todo|fixme|xxx|tbd|your[_-]", re.IGNORECASE)
_SHOWN_ATTRIBUTES = frozenset("alt title href src srcset placeholder value aria-label content action style".split())


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each mark in a text, code samples left out, or in an attribute that readers meet."""
    for text in subject.prose:
        parent = subject.parents.get(text.key)
        linked = parent is not None and parent.name == "a"  # to something of that name
        for match in _marks(text.data):
            if linked and _CAPITALS_ONLY.match(match[0]):
                continue
            if not _is_filled(subject, match[0]):
                yield _mistake(subject, subject.text_span(text, Span(*match.span())), match[0], "readers will see it")
    for element in subject.elements:
        for name, value in element.attributes.items():
            if name in _SHOWN_ATTRIBUTES and not value.startswith("data:"):
                for match in _marks(value):
                    if not _is_filled(subject, match[0]):
                        span = subject.value_span(element, name, Span(*match.span()))
                        yield _mistake(subject, span, match[0], f"{name} holds it")


def _marks(text: str) -> Iterator[re.Match[str]]:
    lowered = text.lower()
    if not any(needed in lowered for needed in _NEEDED):
        return
    for match in _MARKS.finditer(text):
        speaks_of_marks = "..." in match[0] or "…" in match[0]
        if not speaks_of_marks and (not _CAPITALS_ONLY.match(match[0]) or match[0].isupper()):
            yield match


def _is_filled(subject: Subject, mark: str) -> bool:
    """Tell whether every site that the piece is for fills a mark in."""
    return bool(subject.sites) and all(site.fills_in(mark) for site in subject.sites)


def _mistake(subject: Subject, span: Span | None, mark: str, where: str) -> Mistake:
    filling = [site.editor for site in subject.sites if site.fills_in(mark)]
    unless = f"except where {listed(filling)} fills it in" if filling else "unless the platform fills it in"
    return Mistake(span, f"The mark {mark} is left in: {where}, {unless}. Fill it in, or take it away.")
