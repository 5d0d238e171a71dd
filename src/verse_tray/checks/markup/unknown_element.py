"""An element that HTML does not know."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import MOST_GUESSES, nearest
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The text stays, but it looks like any other text: no heading, no list, no link.",
    advice="Write the name as HTML does.",
    bad="<stong>Wear boots</stong>",
    good="<strong>Wear boots</strong>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first element of each unknown name; names with a hyphen are the author's own."""
    guesses = 0
    for name, elements in subject.named.items():
        first = elements[0]
        if name in ELEMENTS or "-" in name or "{" in name or first.namespace != HTML:
            continue
        near = nearest(name, ELEMENTS, 0.6) if guesses < MOST_GUESSES else None
        guesses += 1
        more = f" It stands here and {len(elements) - 1} times more." if len(elements) > 1 else ""
        yield Mistake(
            subject.name_span(first),
            f"HTML knows no element <{name[:40]}>, so browsers show its text and nothing "
            f"else{f'; did you mean <{near}>?' if near else '.'}{more}",
        )
