"""A class in a selector without its dot, or an identifier without its hash."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.vocabulary import ELEMENTS
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The rule matches nothing, so the look it describes is missing.",
    advice="Write a dot in front of a class, a hash in front of an identifier.",
    bad='<style>tide-table { color: #1d4f53 }</style><p class="tide-table">06:12</p>',
    good='<style>.tide-table { color: #1d4f53 }</style><p class="tide-table">06:12</p>',
)
_TYPE = lazy(r"\[[^\]]*\]|::?[\w-]+|[.#][\w-]+|(?<![\w-])([A-Za-z][\w-]*)")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each name in a selector that is no element's, but a class or an identifier of the markup."""
    for code, sheet in subject.sheets:
        for rule in sheet.rules:
            typed = code.text[rule.span.start : rule.span.end]
            for match in _TYPE.finditer(typed):
                name = match[1]
                if name is None or name.lower() in subject.named or typed.startswith("@"):
                    continue
                mark = "." if name in subject.classes else "#" if name in subject.identifiers else ""
                if not mark or (name.lower() in ELEMENTS and name not in subject.classes):
                    continue
                at = rule.span.start + match.start(1)
                what = "a class" if mark == "." else "an identifier"
                yield Mistake(
                    code.at(Span(at, at + len(name))),
                    f"The piece has no element <{name}>, so this rule matches nothing; it has {what} of that name: did "
                    f"you mean {mark}{name}?",
                )
