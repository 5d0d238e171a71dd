"""A class that the markup names in one spelling and the style sheet in another."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The look that the style sheet describes is missing.",
    advice="Spell the class alike in the markup and in the style sheet.",
    bad='<style>.tide-table { color: #1d4f53 }</style><p class="tidetable">06:12</p>',
    good='<style>.tide-table { color: #1d4f53 }</style><p class="tide-table">06:12</p>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each class without a style that looks like a styled class which no element has."""
    styled = subject.styled_classes
    unused = [name for name in styled if name not in subject.classes and name not in subject.script_words]
    if not unused:
        return
    spellings = Spellings(unused)
    for name, element in subject.classes.items():
        if name in styled or name in subject.script_words:
            continue
        if (near := spellings.near(name)) is None:
            continue
        _, span = styled[near]
        where = "" if span is None else " at {}:{}".format(*subject.source.place(span.start))
        value = element.attributes["class"]
        at = re.search(rf"(?<!\S){re.escape(name)}(?!\S)", value)
        place = None if at is None else subject.value_span(element, "class", Span(*at.span()))
        yield Mistake(
            place,
            f"No style of the piece knows the class “{name}”, and no element has the class of the rule{where}: did you "
            f"mean “{near}”?",
        )


class Spellings:
    """Class names, found again under slightly other spellings."""

    def __init__(self, known: list[str]) -> None:
        self._folded = {_folded(name): name for name in reversed(known)}
        self._slips = {slip: name for name in reversed(known) for slip in _slips(name)}

    def near(self, name: str) -> str | None:
        """Return the name that differs in hyphens, capitals, a plural's s, or one slip of the hand."""
        folded = self._folded.get(_folded(name))
        if folded is not None or len(name) < _SHORTEST_SLIP:
            return folded
        found = next((self._slips[slip] for slip in _slips(name) if slip in self._slips), None)
        return found if found is not None and not _differ_in_number(name, found) else None


_SHORTEST_SLIP = 6
"""Shorter names differ by a letter too often on purpose."""
_LONGEST_SLIP = 60


def _folded(name: str) -> str:
    return re.sub(r"[-_]", "", name).lower().removesuffix("s")


def _slips(name: str) -> list[str]:
    """Return a name, and it without one letter each: names one slip apart have one of these in common."""
    if len(name) > _LONGEST_SLIP:
        return [name]
    return [name, *dict.fromkeys(name[:at] + name[at + 1 :] for at in range(len(name)))]


def _differ_in_number(one: str, other: str) -> bool:
    """Tell whether names differ in a digit, or in a letter that stands alone, as ``row-a`` and ``row-b`` do."""
    parts, others = re.split(r"[-_]", one), re.split(r"[-_]", other)
    if len(parts) == len(others) and any(
        a != b and max(len(a), len(b)) < 3 for a, b in zip(parts, others, strict=True)
    ):
        return True
    return re.sub(r"\d", "", one) == re.sub(r"\d", "", other)
