"""A class that the site's style sheet knows in another spelling."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.checks.styles.class_spelling import Spellings
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.style.names import names_in
from verse_tray.style.sheets import parse_sheet

RULE = Rule(
    Severity.NOTE,
    readers="The piece does not take the look that the site has for that class.",
    advice="Spell the class as the site does; verse-tray editors show NAME lists the classes that a site knows.",
    bad='<p class="site_head">Wear boots.</p>',
    good='<p class="site-head">Wear boots.</p>',
)


_SHORTEST = 7
"""Shorter names than that are too often like another by chance."""


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each class without a style anywhere that looks like one a site's theme has a style for."""
    known: dict[str, list[str]] = {}
    for theme in subject.themes:
        for name in theme_classes(theme.css):
            known.setdefault(name, []).append(theme.editor)
    spellings = Spellings(list(known))
    for name, element in subject.classes.items() if known else ():
        if name in known or name in subject.styled_classes or name in subject.script_words:
            continue
        near = spellings.near(name)
        if near is None or near.rstrip("s") == name.rstrip("s"):
            continue
        if len(name) < _SHORTEST and near.lower() != name.lower():
            continue
        at = re.search(rf"(?<!\S){re.escape(name)}(?!\S)", element.attributes["class"])
        yield Mistake(
            None if at is None else subject.value_span(element, "class", Span(*at.span())),
            f"Neither the piece nor a site has a style for the class “{name}”; the site of {listed(known[near])} has "
            f"one for “{near}”. Did you mean that?",
        )


def theme_classes(css: str) -> list[str]:
    """Return the classes that a style sheet has rules for, in order."""
    found: dict[str, None] = {}
    for rule in parse_sheet(css).rules:
        found.update(dict.fromkeys(each.name for each in names_in(rule.selectors) if each.mark == "."))
    return list(found)
