"""Two declarations without a semicolon between them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.splice import Splice
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.properties import PROPERTIES
from verse_tray.style.values import without_strings

RULE = Rule(
    Severity.ERROR,
    readers="Neither of the two counts.",
    advice="Write a semicolon between them.",
    bad='<p style="color: #1d4f53 padding: 8px">Wear boots.</p>',
    good='<p style="color: #1d4f53; padding: 8px">Wear boots.</p>',
    mends=True,
)
_NEXT = lazy(r"(?<=[\s;])(-?[a-z][a-z-]+)\s*:")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each declaration whose value holds the beginning of another."""
    for declared in subject.declared_anywhere:
        if declared.typed.count(":") < 2 or declared.declaration.name.startswith("--"):
            continue
        value_at = declared.typed.index(":") + 1
        for match in _NEXT.finditer(without_strings(declared.typed), value_at):
            before = declared.typed[value_at : match.start()]
            if match[1].lower() not in PROPERTIES or before.count("(") > before.count(")") or "{" in before:
                continue
            span = declared.span
            exact = span is not None and subject.typed(span) == declared.typed
            at = len(declared.typed[: match.start()].rstrip())
            place = Span(span.start + match.start(1), span.start + match.end(1)) if span and exact else span
            yield Mistake(
                place,
                f"A semicolon is missing in front of {match[1]}, so neither it nor {declared.declaration.name} counts.",
                mend=(Splice(Span(span.start + at, span.start + at), ";"),)
                if span and exact and before.strip()
                else (),
                covers=(span,) if span is not None else (),
            )
            break
