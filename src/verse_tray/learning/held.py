"""A profile held against what came back: simulated on the texts that were sent, and compared cell by cell."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from functools import cached_property
from math import inf
from typing import Any, NamedTuple

from verse_tray.editors.faults import contradictions
from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Lists
from verse_tray.editors.load import Editor, read_profile
from verse_tray.journeys.journey import markup_after
from verse_tray.learning.probe.probe import END, cut
from verse_tray.markup.flat import flat
from verse_tray.markup.parse import browser_serialisation
from verse_tray.model.decoding import Source
from verse_tray.model.errors import ProfileError
from verse_tray.model.patterns import lazy
from verse_tray.piece.piece import Piece

Draft = dict[str, Any]
"""A profile being made: the tables and keys of ``editor.toml``, without title and the like."""
_NONE = Lists(Filter())
_ENDS = lazy(r"\W\Z")  # else the next mark would be part of a word
_MANY = 8
"""So many odd cells, and each is looked at alone, where an editor keeps what was typed."""
_TREE, _FIRST, _TEXT, _WORD = 10.0, 2.0, 1.0, 0.02
"""What a cell costs that is predicted otherwise as a tree (a little more in the first probe), or is only written
otherwise; and a word of a profile."""
_ROUNDING = 1e-6
"""What two ways to the same cost may lie apart."""


class Misses(NamedTuple):
    """What a profile predicts otherwise than it came back: pairs of a case's number and a cell's."""

    trees: frozenset[tuple[int, int]]
    """As trees."""
    texts: frozenset[tuple[int, int]]
    """As they are written; those that differ as trees are among them."""

    @property
    def cost(self) -> float:
        """What they cost together."""
        return _cost(self.trees, self.texts)

    def of(self, cases: Collection[int]) -> Misses:
        """Return those of some of the cases."""
        return Misses(*(frozenset(each for each in found if each[0] in cases) for found in self))


def _cost(trees: Collection[tuple[int, int]], texts: Collection[tuple[int, int]]) -> float:
    """Return what is predicted otherwise costs together."""
    first = sum(at == 0 for at, _ in trees)  # the most telling was asked first
    return _TREE * len(trees) + _FIRST * first + _TEXT * len(texts)


class Case:
    """A text that was sent, and what came back of it."""

    def __init__(self, sent: str, got: str, stages: Sequence[str], cells: Collection[int] | None = None) -> None:
        self.sent = sent
        self.got = got
        self.is_apart = False
        """Whether its one cell is held against a draft as part of a longer text already: how it is written counts."""
        self.stages = stages
        """The stages that lie between."""
        self._cells = cells
        self._parts: dict[tuple[int, ...], Case] = {}

    @cached_property
    def piece(self) -> Piece:
        """What was sent, read once for all editors that it is tried in."""
        return Piece(Source(self.sent))

    @cached_property
    def texts(self) -> dict[int, str]:
        """What came back, by cells, as it is written."""
        return cut(self.got)

    @cached_property
    def sent_cells(self) -> dict[int, str]:
        """What was sent, by cells."""
        return cut(self.sent)

    @cached_property
    def cells(self) -> frozenset[int]:
        """The cells that count: all that were sent, but for the last mark, when there are any; else the whole."""
        if self._cells is not None:
            return frozenset(self._cells)
        return frozenset(self.sent_cells.keys() - {999})

    def only(self, cells: Collection[int]) -> Case:
        """Return the same with some of its cells; once for all editors that those are tried in."""
        if len(self.cells) == 1:
            return self
        few = tuple(sorted(self.cells.intersection(cells) - {-1}))  # in front may stand what is of other cells
        if not few:
            return NOTHING
        if few not in self._parts:
            self._parts[few] = self._part(few)
        return self._parts[few]

    def _part(self, few: tuple[int, ...]) -> Case:
        parts = [f"q{each:03}z{self.sent_cells[each]}" for each in few]
        sent = self.sent_cells[-1] + "".join(each if _ENDS.search(each) else f"{each} " for each in parts) + END
        made = Case(sent, self.got, self.stages, few)
        made.__dict__["texts"] = self.texts
        return made

    def apart(self, most: int = 16) -> list[Case]:
        """Return cells, each as a text of its own, that browsers would write otherwise than they were typed.

        In a long text one cell can be why everything is written anew; alone, each tells for itself.
        """
        odd = [
            cell
            for cell in sorted(self.cells)
            if cell >= 0 and len(text := self.sent_cells[cell]) < 300 and browser_serialisation(text) != text
        ]
        if len(self.cells) == 1:
            return [self] * len(odd)
        cases = [self._part((cell,)) for cell in odd[:most]]
        for case in cases:
            case.is_apart = True
        return cases


NOTHING = Case("", "", (), ())
"""A case without cells."""


def editor_of(draft: Draft) -> Editor | None:
    """Return the editor that a draft describes; None where it contradicts itself."""
    try:
        profile = read_profile({"title": "Learned", "summary": "Learned.", **draft}, "learned")
    except ProfileError:
        return None
    return None if contradictions(profile, "") else Editor("learned", profile)


def predicted(editor: Editor, case: Case) -> dict[int, str]:
    """Return what an editor makes of what was sent, by cells."""
    return cut(markup_after(case.piece, editor, case.stages))


def hold(draft: Draft, cases: list[Case], within: float = inf) -> Misses | None:
    """Return the cells that a draft predicts otherwise; None where it cannot be used, or costs more than so much."""
    editor = editor_of(draft)
    if editor is None:
        return None
    trees: set[tuple[int, int]] = set()
    texts: set[tuple[int, int]] = set()
    within += _ROUNDING - _WORD * words_of(draft)
    for number, case in enumerate(cases):
        if not case.cells:
            continue
        if _cost(trees, texts) > within:
            return None
        written = predicted(editor, case)
        odd = {each for each in case.cells if written.get(each) != case.texts.get(each)}
        if len(odd) > _MANY and case.stages and editor.lists.get(case.stages[-1], _NONE).record.writes != "anew":
            wrong = set()
            for each in odd:
                if not is_right_alone(editor, case, each):
                    wrong.add(each)
                    if _cost(trees, texts) + _TEXT * len(wrong) > within:
                        return None
            odd = wrong
        if odd:
            texts |= {(number, each) for each in odd}
            pairs = {each: (written.get(each), case.texts.get(each)) for each in odd}
            if case.is_apart:
                continue
            trees |= {(number, each) for each, (a, b) in pairs.items() if a is None or b is None or flat(a) != flat(b)}
    return Misses(frozenset(trees), frozenset(texts))


def is_right_alone(editor: Editor, case: Case, cell: int) -> bool:
    """Tell whether a cell is predicted right in a text of its own: in a long one, one cell can change all others."""
    if cell < 0 or len(case.cells) == 1:
        return False
    return predicted(editor, case.only({cell})).get(cell) == case.texts.get(cell)


def words_of(draft: Any) -> int:
    """Return how many words a profile has: names of keys, and values."""
    if isinstance(draft, dict):
        return sum(map(words_of, draft.values())) + len(draft)
    return sum(map(words_of, draft)) if isinstance(draft, list | tuple) else 1


def cost(misses: Misses | None, draft: Draft) -> float:
    """Return what a draft costs: what it predicts otherwise, and its length."""
    return 1e9 if misses is None else misses.cost + _WORD * words_of(draft)


def tags_in(markup: str) -> list[str]:
    """Return the names of the start tags in a cell, in order, each once."""
    return list(dict.fromkeys(name.lower() for name in re.findall(r"<([a-zA-Z][\w:-]*)", markup)))
