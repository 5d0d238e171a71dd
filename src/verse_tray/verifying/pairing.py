"""Two sequences of leaves, paired: what stands at both ends, what stands once in each, and what lies between."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from collections.abc import Sequence

_MOST_COMPARED = 250_000  # pairs of leaves between two that stand once, up to which the best of all pairings is found
_AHEAD = 40  # leaves that are looked ahead where there are more


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
        else:
            pairs = _best if (b - a) * (d - c) <= _MOST_COMPARED else _next
            found += [(a + i, c + j) for i, j in pairs(one[a:b], other[c:d])]
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


def _best(one: Sequence[str], other: Sequence[str]) -> list[tuple[int, int]]:
    """Return the pairs of a longest common subsequence."""
    rows = [[0] * (len(other) + 1)]
    for token in reversed(one):
        below, row = rows[-1], [0] * (len(other) + 1)
        for j in range(len(other) - 1, -1, -1):
            row[j] = below[j + 1] + 1 if token == other[j] else max(below[j], row[j + 1])
        rows.append(row)
    rows.reverse()
    found = []
    i = j = 0
    while i < len(one) and j < len(other):
        if one[i] == other[j]:
            found.append((i, j))
            i, j = i + 1, j + 1
        elif rows[i + 1][j] >= rows[i][j + 1]:
            i += 1
        else:
            j += 1
    return found


def _next(one: Sequence[str], other: Sequence[str]) -> list[tuple[int, int]]:
    """Return pairs of each leaf and the next that is the same, not far ahead."""
    found = []
    j = 0
    for i, token in enumerate(one):
        ahead = next((at for at in range(j, min(j + _AHEAD, len(other))) if other[at] == token), None)
        if ahead is not None:
            found.append((i, ahead))
            j = ahead + 1
    return found
