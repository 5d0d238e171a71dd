"""A selector that browsers cannot read, with which its whole rule goes."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import Guesses
from verse_tray.piece.subject import Subject
from verse_tray.style.matching import OF_OLD, PSEUDO_CLASSES, PSEUDO_ELEMENTS, understood
from verse_tray.style.values import without_strings

RULE = Rule(
    Severity.WARNING,
    readers="Nothing of the rule counts, for none of its selectors.",
    advice="Mend the selector: names begin with a letter, and a comma stands between two.",
    bad="<style>.hint, { color: #1d4f53 }</style><p class=hint>Wear boots.</p>",
    good="<style>.hint { color: #1d4f53 }</style><p class=hint>Wear boots.</p>",
)
_NOT_OURS = lazy(r"\{\{|\{%|<%|[$@\\&]|#\{|:-|/deep/|>>>")  # marks, preprocessors, escapes, one browser's own words
_NUMBER = lazy(r"[\d.]+")
_TESTS = lazy(r"\[[^\]]*\]")
_EMPTY_PART = lazy(r"\A\s*,|,\s*,|,\s*\Z")
_DIGIT = lazy(r"[#.](\d[\w-]*)")
_NAMELESS = lazy(r"[#.](?=[\s,>+~#.:)]|\Z)")
_ALONE = lazy(r"[>+~]\s*(?:,|\Z)|(?:\A|,)\s*[>+~]")
_PSEUDO = lazy(r"(::?)([a-z][a-z-]*)(?=[^\w-]|\Z)", re.IGNORECASE)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each rule of which it is certain that browsers cannot read its selectors."""
    guesses = Guesses()
    for code, sheet in subject.sheets:
        for rule in sheet.rules:
            if rule.nested or understood(rule.selectors) or _NOT_OURS.search(rule.selectors):
                continue
            if why := _why(_TESTS.sub("", without_strings(rule.selectors)), guesses):
                span = code.at(rule.span)
                message = f"Browsers cannot read “{rule.selectors[:60]}”, so nothing of this rule counts: {why}"
                yield Mistake(span, message, covers=() if span is None else (span,))
    yield from _steps(subject)


def _steps(subject: Subject) -> Iterator[Mistake]:
    for code, sheet in subject.sheets:
        for step in sheet.steps:
            bare = next((each for each in map(str.strip, step.selectors.split(",")) if _NUMBER.fullmatch(each)), None)
            if bare is not None:
                span = code.at(step.span)
                message = f"{bare} is no step of an animation, so nothing of this step counts. Write {bare}%."
                yield Mistake(span, message, covers=() if span is None else (span,))


def _why(selectors: str, guesses: Guesses) -> str:
    """Return what is wrong for certain; nothing where it may be that only we do not know it."""
    if _EMPTY_PART.search(selectors):
        return "nothing stands beside a comma. Take it away, or write what it is to divide."
    if digit := _DIGIT.search(selectors):
        return f"no name begins with a digit there. Give {digit[1]} a letter in front, here and in the markup."
    if _NAMELESS.search(selectors):
        return "no name stands behind a dot or a #. Write it there, without a blank."
    if sign := _ALONE.search(selectors):
        return f"{sign[0].strip(' ,')} stands between two, and one is missing. Write it, or take the sign away."
    for colons, name in _PSEUDO.findall(selectors):
        known = PSEUDO_ELEMENTS if colons == "::" else PSEUDO_CLASSES | OF_OLD
        if name.lower() not in PSEUDO_ELEMENTS | PSEUDO_CLASSES and (
            near := guesses.nearest(name.lower(), known, 0.75)
        ):
            return f"there is no {colons}{name}; did you mean {colons}{near}?"
    return ""
