"""The profile that explains most of what came back with the fewest words: changed step by step, then shortened."""

from __future__ import annotations

from copy import deepcopy

from verse_tray.learning.held import NOTHING, Case, Draft, Misses, cost, hold, tags_in
from verse_tray.learning.moves import moves

_MOST_CHARACTERS = 3_000_000
"""What the search may send through editors at a stage; a text that is a mess would have it try without end."""
_LOOKED_AT = 40
"""Unexplained cells that are looked at in a round."""
_EXPLAINED = 9
"""Of the explained cells, every so many-th is held against a change as well, before all are."""
_TRIED = 12
"""So many changes that gain most on some cells are held against all."""
_READ_OFF = ("writes", "voidTags", "textSigns", "valueSigns", "references", "attributeOrder")
"""Keys that say how it is written: read off from cells that were made for it, and never taken out again."""
_WORTH = 0.5
"""What a change has to gain."""


def search(draft: Draft, cases: list[Case], table: str) -> tuple[Draft, Misses]:
    """Change a draft while that explains more, then take out what explains nothing.

    Args:
        draft: The first guess; it can be used.
        cases: What was sent, and what came back at the stage.
        table: The table of the profile that is changed.

    Returns:
        The draft, and what it predicts otherwise.
    """
    best = hold(draft, cases)
    if best is None:
        draft = {key: value for key, value in draft.items() if key != table}
        best = hold(draft, cases)
        assert best is not None
    if table == "reopen" and table not in draft and best.texts:
        typed = {**draft, table: {"writes": "as-typed"}}  # else every first key of it has all written anew
        draft, best = typed, hold(typed, cases) or best
    tried = _Tried()
    while best.texts and tried.characters < _MOST_CHARACTERS:
        found = _better(draft, best, cases, table, tried)
        if found is None and tried.changes:
            tried.changes.clear()
            found = _better(draft, best, cases, table, tried)
        if found is None:
            break
        draft, best = found
    return _shortened(draft, best, cases, table)


class _Tried:
    """What was tried, and how much work that was."""

    def __init__(self) -> None:
        self.changes: set[str] = set()
        """Changes that gained nothing."""
        self.characters = 0
        """Characters that were sent through editors."""


def _better(draft: Draft, best: Misses, cases: list[Case], table: str, tried: _Tried) -> tuple[Draft, Misses] | None:
    """Return the draft with the change that gains most; None where none gains enough."""
    odd = sorted(best.trees)[:_LOOKED_AT] + sorted(best.texts - best.trees)[: _LOOKED_AT // 2]
    few = []
    for number, case in enumerate(cases):
        mine = {cell for at, cell in odd if at == number}
        explained = _explained(case, mine) if len(case.cells) > 1 else set()
        few.append(case.only(mine | explained) if mine or explained else NOTHING)
    cells = [(cases[at].sent_cells.get(cell, ""), cases[at].texts.get(cell, "")) for at, cell in odd]
    unlimited = {key: value for key, value in draft.items() if key != "limits"}
    base = cost(hold(unlimited, few), unlimited)
    size, whole = (sum(len(case.sent) for case in some) for some in (few, cases))
    gains = []
    for number, move in enumerate(moves(unlimited, table, cells)):
        if move.told not in tried.changes and tried.characters < _MOST_CHARACTERS:
            tried.characters += size
            gain = base - cost(hold(move.draft, few, base - _WORTH), move.draft)
            if gain > _WORTH:
                gains.append((-gain, number, move))
            else:
                tried.changes.add(move.told)
    for _, _, move in sorted(gains)[:_TRIED]:
        new = {**move.draft, **({"limits": draft["limits"]} if "limits" in draft else {})}
        held = hold(new, cases, cost(best, draft) - _WORTH)
        tried.characters += whole
        if held is not None and cost(held, new) < cost(best, draft) - _WORTH:
            return new, held
        tried.changes.add(move.told)
    return None


def _explained(case: Case, odd: set[int]) -> set[int]:
    """Return explained cells that tell whether a change does harm: every so many-th, some with the same elements."""
    left = sorted(case.cells - odd - {-1})
    found = set(left[::_EXPLAINED])
    names = {name for cell in odd for name in tags_in(case.sent_cells.get(cell, ""))}
    for name in names:
        found |= set([cell for cell in left if f"<{name} " in case.sent_cells[cell]][:2])
    return found


def _shortened(draft: Draft, best: Misses, cases: list[Case], name: str) -> tuple[Draft, Misses]:
    """Take out what makes no difference, again and again: keys first, then the keys of tables within."""
    before = draft
    paths: list[tuple[str, ...]] = [(key,) for key in draft.get(name, {}) if key not in _READ_OFF]
    paths += [(key, inner) for (key,) in paths if isinstance(draft[name][key], dict) for inner in draft[name][key]]
    for path in paths:
        if name not in draft:
            break
        new = deepcopy(draft)
        table = new[name]
        for key in path[:-1]:
            table = table.get(key, {})
        if path[-1] not in table:
            continue
        del table[path[-1]]
        held = hold(new, cases, cost(best, draft))
        if held is not None and cost(held, new) <= cost(best, draft):
            draft, best = new, held
    if draft is not before:
        return _shortened(draft, best, cases, name)
    if name in draft:
        new = {key: value for key, value in draft.items() if key != name}
        held = hold(new, cases)
        if held is not None and (not draft[name] or cost(held, new) <= cost(best, draft)):
            draft, best = new, held
    return draft, best
