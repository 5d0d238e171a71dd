"""A property that CSS does not know."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import MOST_GUESSES, nearest
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.properties import PROPERTIES

RULE = Rule(
    Severity.WARNING,
    readers="The declaration does not count.",
    advice="Write the property's name as CSS does.",
    bad='<p style="colour: #1d4f53">Wear boots.</p>',
    good='<p style="color: #1d4f53">Wear boots.</p>',
)
_SAID_OTHERWISE = {"colour": "color", "background-colour": "background-color", "border-colour": "border-color"}


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the first declaration of each unknown property; those of one maker's browser are left out."""
    told: set[str] = set()
    for declared in subject.declared:
        name = declared.declaration.name
        if not name or name in PROPERTIES or name in told or name.startswith(("-", "mso-", "*", "_")):
            continue
        told.add(name)
        near = _SAID_OTHERWISE.get(name) or (nearest(name, PROPERTIES, 0.7) if len(told) < MOST_GUESSES else None)
        span = declared.span
        place = None if span is None else Span(span.start, min(span.end, span.start + len(name)))
        yield Mistake(
            place, f"CSS knows no property {name[:40]}, so it does nothing{f'; did you mean {near}?' if near else '.'}"
        )
