"""Answers that contradict each other: the same cell came back otherwise from another probe."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from verse_tray.learning.learned import Returned
from verse_tray.learning.probe.probe import cut


class Contradiction(NamedTuple):
    """Two answers to one question."""

    stage: str
    sent: str
    first: str
    second: str


def contradictions(returned: Sequence[Returned]) -> list[Contradiction]:
    """Return the cells that came back in two ways."""
    answers: dict[tuple[str, str], str] = {}
    found = []
    for each in returned:
        sent = cut(each.sent)
        for stage, text in each.back.items():
            back = cut(text)
            for number, cell in sent.items():
                if number < 0 or number == 999 or number not in back:
                    continue
                before = answers.setdefault((stage, cell), back[number])
                if before.strip() != back[number].strip():
                    found.append(Contradiction(stage, cell.strip(), before.strip(), back[number].strip()))
    return found
