"""A class that the markup names in one spelling and the style sheet in another."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.checks.subject import Subject
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.model.words import nearest

RULE = Rule(
    Severity.WARNING,
    readers="The look that the style sheet describes is missing.",
    advice="Spell the class alike in the markup and in the style sheet.",
    bad='<style>.tide-table { color: #1d4f53 }</style><p class="tidetable">06:12</p>',
    good='<style>.tide-table { color: #1d4f53 }</style><p class="tide-table">06:12</p>',
)
_MOST = 2_000


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each class without a style that looks like a styled class which no element has."""
    styled = subject.styled_classes
    unused = [name for name in styled if name not in subject.classes and not _in_script(subject, name)]
    if not unused or len(unused) > _MOST:
        return
    for name, element in subject.classes.items():
        if name in styled or _in_script(subject, name):
            continue
        if (near := alike(name, unused)) is None:
            continue
        _, span = styled[near]
        where = "" if span is None else " at {}:{}".format(*subject.source.place(span.start))
        value = element.attributes["class"]
        at = re.search(rf"(?<!\S){re.escape(name)}(?!\S)", value)
        place = None if at is None else subject.value_span(element, "class", Span(*at.span()))
        yield Mistake(
            place,
            f"No style of the piece knows the class “{name}”, and no element has the class of the rule{where}: did "
            "you mean "
            f"“{near}”?",
        )


def alike(name: str, known: list[str]) -> str | None:
    """Return the known class that differs in hyphens, capitals, a plural's s, or one slip of the hand."""
    folded = _folded(name)
    near = next((each for each in known if _folded(each) == folded), None)
    if near is None and len(name) > 5 and (close := nearest(name, known, 0.84)) is not None:
        near = close if _one_slip(name, close) else None
    return near


def _folded(name: str) -> str:
    return re.sub(r"[-_]", "", name).lower().removesuffix("s")


def _one_slip(one: str, other: str) -> bool:
    """Tell whether two names differ by one letter, or by two that changed places."""
    if len(one) < len(other):
        one, other = other, one
    at = next((i for i, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), len(other))
    if len(one) == len(other):
        rest_one, rest_other = one[at + 1 :], other[at + 1 :]
        swapped = one[at : at + 2] == other[at : at + 2][::-1] and one[at + 2 :] == other[at + 2 :]
        return (rest_one == rest_other and one[at : at + 1].isalpha() and other[at : at + 1].isalpha()) or swapped
    return len(one) - len(other) == 1 and one[at + 1 :] == other[at:] and one[at].isalpha()


def _in_script(subject: Subject, name: str) -> bool:
    return name in subject.script_text
