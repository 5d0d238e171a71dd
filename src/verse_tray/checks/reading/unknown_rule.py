"""A comment that silences a rule which does not exist."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.checks.silence import silenced_in
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import spelling
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.NOTE,
    readers="Nothing; but the comment silences no rule.",
    advice="Write the rule's name as the report does.",
    bad="<!-- verse-tray silence: links/inlink --><p>Low water at six.</p>",
    good="<!-- verse-tray silence: links/in-link --><p>Low water at six.</p>",
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each name that is no rule's."""
    for name, span in silenced_in(subject):
        if name != "all" and name not in subject.rules:
            yield Mistake(span, f"There is no rule {name!r} to silence{spelling(name, subject.rules, 0.5)}")
