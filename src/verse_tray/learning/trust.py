"""How far a learned profile is to be trusted: a number that was held against many editors (``bench/learning.py``)."""

from __future__ import annotations

import re

from verse_tray.learning.choose import is_idle
from verse_tray.learning.held import Case, editor_of, predicted
from verse_tray.learning.learned import Learned
from verse_tray.learning.probe.probe import size_of
from verse_tray.learning.probe.questions import questions
from verse_tray.model.phrasing import first_difference

_BEST, _UNASKED, _ODD, _LEAST = 99.0, 4.0, 16.0, 4
"""Where everything was asked and explained; what it costs that nothing was asked, and a common cell that is not
explained; the least that is told."""
_COMMON_TAGS = frozenset(
    "p a b i em strong u span div img br ul ol li h2 h3 h4 table tbody tr td th blockquote".split()
)
_COMMON_ATTRIBUTES = frozenset("href src alt class style title id width height target rel align".split())
_ODD_VALUES = ("values", "addresses", "style ", "how tags", "forms of", "empty")
"""Beginnings of what cells ask about that hold odd values on purpose."""
_OF_ODD_VALUES = 0.3
_WITHOUT_TAGS = 3.0
"""What counts for so many common cells: the text in front of all cells came back otherwise, so every piece will."""


def unasked(learned: Learned) -> float:
    """Return the share of what can be asked and would tell something that was not asked, by its size."""
    sent = {cell.strip(" ") for case in learned.cases[learned.first] for cell in case.sent_cells.values()}
    useful = [each for each in questions() if not each.small and not is_idle(each, learned.first_facts)]
    left = [each for each in useful if each.markup not in sent]
    return sum(map(size_of, left)) / max(1, sum(map(size_of, useful)))


def trust(learned: Learned) -> int:
    """Return how many of 100 pieces it is expected to predict right, to the letter."""
    editor = editor_of(learned.draft)
    assert editor is not None
    odd = 0.0
    asks = {each.markup: each.asks for each in questions()}
    for stage, misses in learned.misses.items():
        cases = learned.cases[stage]
        written = {at: predicted(editor, cases[at]) for at in {at for at, _ in misses.texts}}
        for at, cell in misses.texts:
            about = asks.get(cases[at].sent_cells.get(cell, "").strip(" "), "")
            weight = _weight(cases[at], cell, written[at].get(cell))
            odd += weight * (_OF_ODD_VALUES if about.startswith(_ODD_VALUES) else 1)
    return max(_LEAST, round(_BEST - _UNASKED * unasked(learned) - _ODD * odd))


def _weight(case: Case, cell: int, predicted: str | None) -> float:
    """Return how much it matters that a cell is not explained: by how common what differs is in what people write."""
    if cell < 0:
        return _WITHOUT_TAGS
    returned, other = case.texts.get(cell) or "", predicted or ""
    at = first_difference(returned, other)
    inside = max(returned, other, key=len)
    opening = inside.rfind("<", 0, at + 1)
    names = re.findall(r"<(\w[\w-]*)", case.sent_cells.get(cell, ""))
    if opening > inside.rfind(">", 0, at):  # it differs within a tag
        attributes = re.findall(r"\s([\w:-]+)", inside[opening : at + 20].split(">")[0])
        before = re.findall(r"\s([\w:-]+)", inside[opening:at])
        name = attributes[len(before) - 1] if before else attributes[0] if attributes else ""
        if name and name not in _COMMON_ATTRIBUTES:
            return 0.05
    if not names:
        return 0.5
    return 1.0 if all(name in _COMMON_TAGS for name in names) else 0.1
