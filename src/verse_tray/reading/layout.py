"""How neighbours stand to one another in two readings: on one line, side by side, below, run together."""

from __future__ import annotations

from itertools import pairwise
from math import exp

from verse_tray.reading.differences import Comparison, Difference
from verse_tray.reading.pairing import Pairing
from verse_tray.reading.records import Reading
from verse_tray.reading.relations import Item, Relation, Relations, items
from verse_tray.reading.thresholds import THRESHOLDS

_IN_LINE = ("line", "joined")


def compare_layout(before: Reading, after: Reading, pairing: Pairing, found: Comparison, *, by_text: bool) -> float:
    """Return the share of neighbours that still stand as they did; what differs goes into ``found``."""
    partners = _Partners(before, after, pairing, by_text=by_text)
    was, now = Relations(before.blocks), Relations(after.blocks)
    same = edges = 0.0
    for number, part, next_part in partners.broken:
        kind = now.between(partners.run(part), partners.run(next_part)).kind
        if kind not in _IN_LINE and not after.runs[part].filled and not after.runs[next_part].filled:
            edges += 1
            found.add(Difference("layout", "place", before.runs[number].key, 1, "line", kind, seen=True))
    # what is lost is counted as text and media: what is left is compared with its next neighbour that is left
    left = [item for item in items(before) if partners.of(item, end=True) is not None]
    for one, other in pairwise(left):
        old = was.between(one, other)
        a, b = partners.of(one, end=True), partners.of(other, end=False)
        assert a is not None
        assert b is not None
        new = now.between(a, b)
        if old.kind == new.kind and old.kind in _IN_LINE:
            continue
        edges += 1
        same += _share(before, one, other, old, new, found)
    return same / edges if edges else 1.0


class _Partners:
    """What the runs and media of the first reading are in the second."""

    def __init__(self, before: Reading, after: Reading, pairing: Pairing, *, by_text: bool) -> None:
        self._before = before
        self._first, self._last = pairing.first, pairing.last
        self.broken: list[tuple[int, int, int]] = []
        """Runs of which a part stands apart now: the run, and two parts that come one after the other."""
        parts: dict[int, int] = {}
        for number, other, _ in pairing.pairs:
            if parts.get(number, other) != other:
                self.broken.append((number, parts[number], other))
            parts[number] = other
        self._runs = {item.run: item for item in items(after) if item.run >= 0}
        media = _by_address(before, after) if by_text else {m.key: number for number, m in enumerate(after.media)}
        places = {item.medium: item for item in items(after) if item.medium >= 0}
        self._media = {key: places[number] for key, number in media.items()}

    def run(self, number: int) -> Item:
        """Return a run of the second reading."""
        return self._runs[number]

    def of(self, item: Item, *, end: bool) -> Item | None:
        """Return what stands for something in the second reading: its last part, or its first."""
        if item.run < 0:
            return self._media.get(self._before.media[item.medium].key)
        number = (self._last if end else self._first).get(item.run)
        return None if number is None else self._runs[number]


def _by_address(before: Reading, after: Reading) -> dict[int, int]:
    """Return the numbers of media by the keys of those that they were: alike by kind and address, in their order."""
    there: dict[tuple[str, str], list[int]] = {}
    for number, medium in reversed(list(enumerate(after.media))):
        there.setdefault((medium.kind, medium.address), []).append(number)
    return {m.key: there[m.kind, m.address].pop() for m in before.media if there.get((m.kind, m.address))}


def _share(before: Reading, one: Item, other: Item, old: Relation, new: Relation, found: Comparison) -> float:
    """Return how much alike two relations are."""
    key = before.runs[other.run].key if other.run >= 0 else before.media[other.medium].key
    if old.kind == new.kind:
        if abs(old.gap - new.gap) > THRESHOLDS["gap"].most:
            found.add(Difference("layout", "gap", key, 1, f"{old.gap:g}px", f"{new.gap:g}px", seen=True))
        return 0.7 + 0.3 * exp(-abs(old.gap - new.gap) / 12)
    if new.kind == "joined" and _meet(before, one, other):
        words = before.runs[one.run].text.split()[-1], before.runs[other.run].text.split()[0]
        found.add(Difference("layout", "joined", key, 1, *words, seen=True))
    elif {old.kind, new.kind} != {"line", "joined"}:
        found.add(Difference("layout", "place", key, 1, old.kind, new.kind, seen=True))
    return 0.25 if {old.kind, new.kind} == {"line", "row"} else 0.0


def _meet(before: Reading, one: Item, other: Item) -> bool:
    """Tell whether two words become one where nothing stands between them."""
    if one.run < 0 or other.run < 0:
        return False
    return before.runs[one.run].text[-1].isalnum() and before.runs[other.run].text[0].isalnum()
