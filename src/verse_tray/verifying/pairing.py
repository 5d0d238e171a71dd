"""Two sequences of leaves, paired: what stands at both ends, what stands once in each, and what lies between."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence
from difflib import SequenceMatcher

_MOST = 1_500  # leaves between two that stand once, up to which all pairings are looked at


def paired(one: Sequence[str], other: Sequence[str]) -> list[tuple[int, int]]:
    """Return pairs of places at which two sequences hold the same, both ascending."""
    found: list[tuple[int, int]] = []
    waiting = [(0, len(one), 0, len(other))]
    while waiting:
        a, b, c, d = waiting.pop()
        while a < b and c < d and one[a] == other[c]:
            found.append((a, c))
            a, c = a + 1, c + 1
        while a < b and c < d and one[b - 1] == other[d - 1]:
            b, d = b - 1, d - 1
            found.append((b, d))
        if a == b or c == d:
            continue
        anchors = _anchors(one, other, (a, b, c, d))
        if anchors:
            found += anchors
            starts = [(a, c), *((i + 1, j + 1) for i, j in anchors)]
            waiting += [(i, m, j, n) for (i, j), (m, n) in zip(starts, [*anchors, (b, d)], strict=True)]
        elif b - a <= _MOST and d - c <= _MOST:
            matcher = SequenceMatcher(None, one[a:b], other[c:d], autojunk=False)
            for i, j, size in matcher.get_matching_blocks():
                found += [(a + i + step, c + j + step) for step in range(size)]
    return sorted(found)


def _anchors(one: Sequence[str], other: Sequence[str], within: tuple[int, int, int, int]) -> list[tuple[int, int]]:
    """Return pairs of what stands once in each stretch, as many as keep their order (the longest rising sequence)."""
    a, b, c, d = within
    counts, others = Counter(one[a:b]), Counter(other[c:d])
    places = {other[j]: j for j in range(c, d) if others[other[j]] == 1}
    pairs = [(i, places[one[i]]) for i in range(a, b) if counts[one[i]] == 1 and one[i] in places]
    ends: list[int] = []  # for each length, the smallest end of a rising sequence
    chosen: list[int] = []
    before: list[int] = []
    for at, (_, j) in enumerate(pairs):
        length = bisect_left(ends, j)
        before.append(chosen[length - 1] if length else -1)
        if length == len(ends):
            ends.append(j)
            chosen.append(at)
        else:
            ends[length], chosen[length] = j, at
    found: list[tuple[int, int]] = []
    at = chosen[-1] if chosen else -1
    while at >= 0:
        found.append(pairs[at])
        at = before[at]
    return found[::-1]
