"""What a stage of an editor does, in plain sentences: those of its steps, put in order."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from verse_tray.editors.filters import Filter
from verse_tray.journeys.steps.step import Step

_ORDER = (
    *("text", "white space", "spaces", "quotes", "neighbours", "nesting", "empty ones", "line breaks"),
    *("elements", "attributes", "classes, names", "addresses", "styles", "frames", "comments", "emoji"),
)
"""What is told of first; everything else stands as its step does."""
_FIRST = ("elements", "renames")
"""Steps whose sentences come first among those that are about the same."""
_LAST = ("style-prefix",)
_A_ROW_EACH = ("elements",)
"""What has many sentences, each a row of its own."""


def sentences(record: Filter, steps: Sequence[Step]) -> Iterator[tuple[str, str]]:
    """Yield pairs of what a sentence is about and the sentence; nothing is said of what stays as it is.

    Args:
        record: The stage's record.
        steps: The steps that are told of.
    """
    told: dict[str, list[str]] = {}
    for step in sorted(steps, key=_rank):
        for about, sentence in step.told(record) if step.told else ():
            told.setdefault(about, []).append(sentence)
    for about in sorted(told, key=lambda each: _ORDER.index(each) if each in _ORDER else len(_ORDER)):
        if about in _A_ROW_EACH:
            yield from ((about if not number else "", sentence) for number, sentence in enumerate(told[about]))
        else:
            yield about, " ".join(told[about])


def _rank(step: Step) -> int:
    if step.name in _FIRST:
        return _FIRST.index(step.name) - len(_FIRST)
    return step.name in _LAST
