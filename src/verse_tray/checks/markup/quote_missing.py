"""An attribute whose closing quote is missing."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.odd_tags import odd_tags, swallowed
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The value swallows text and tags up to the next quote; all that is missing from the page.",
    advice="Close the quote behind the value.",
    bad='<p><a href="https://gannetcove.example/walks>Walks</a> and <a href="https://gannetcove.example">home</a></p>',
    good='<p><a href="https://gannetcove.example/walks">Walks</a> and <a href="https://gannetcove.example">home</a></p>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each value that runs on into the next tags."""
    for odd in odd_tags(subject):
        if not swallowed(subject, odd):
            continue
        span = odd.before.whole if odd.before is not None else odd.at
        name = subject.typed(odd.before.name) if odd.before is not None else "this attribute"
        yield Mistake(
            span,
            f"The quote that opens the value of {name} is not closed where it should be: the value runs on through the "
            "tags behind it, and readers miss all of that. Close it behind the value.",
            covers=_within(span),
        )


def _within(span: Span) -> tuple[Span, ...]:
    """Return what other rules would find in the value that runs on: any sign of it."""
    return tuple(Span(at, at + 1) for at in range(span.start, min(span.end, span.start + 5_000)))
