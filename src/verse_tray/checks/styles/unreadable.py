"""A part of a style sheet or a style attribute that browsers throw away."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="What stands there does not count.",
    advice="Write property: value; and nothing else between the braces.",
    bad='<p style="color = #1d4f53">Wear boots.</p>',
    good='<p style="color: #1d4f53">Wear boots.</p>',
)
_OLD_TRICKS = ("<!--", "-->", "*", "_", "filter:", "progid:", "//")
"""How declarations begin that other browsers of old times were to skip, or read: left out on purpose."""


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each place of a sheet, and each part of an attribute, that the CSS parser gives up."""
    for code, sheet in subject.sheets:
        for span in sheet.broken:
            typed = code.text[span.start : span.end if span.end > span.start + 1 else span.start + 60]
            if typed.strip() and not typed.startswith(_OLD_TRICKS) and "{{" not in typed:
                yield _mistake(code.at(span), typed)
    for declared in subject.declared:
        if not declared.declaration.name and declared.element is not None:
            if not declared.typed.startswith(_OLD_TRICKS) and not _has_mark(declared.typed):
                yield _mistake(declared.span, declared.typed)


def _has_mark(typed: str) -> bool:
    return any(mark in typed for mark in ("{{", "{%", "<%", "%%", "${"))


def _mistake(span: Span | None, typed: str) -> Mistake:
    shown = " ".join(typed.split())
    shown = shown if len(shown) <= 40 else shown[:39] + "…"
    what = f"“{shown}” is no declaration, so browsers skip it"
    return Mistake(span, f"{what}. Write property: value; with a colon between the two and a semicolon behind them.")
