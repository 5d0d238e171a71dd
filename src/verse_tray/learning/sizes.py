"""Limits of size: told by what was refused, by texts that end too soon, and by what stays only so often."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from verse_tray.learning.probe.probe import END, cut
from verse_tray.markup.addresses import host_of
from verse_tray.markup.parse import parse_fragment

if TYPE_CHECKING:
    from verse_tray.learning.learned import Returned

_ROUND = sorted(
    {255, 1024, 2048, 4096, 8192, 16384, 32768, 65535, 10**6}
    | {factor * 10**power for factor in (1, 2, 3, 4, 5, 6, 8) for power in (2, 3, 4, 5)}
)
"""Sizes that people set limits at."""


def limits_of(returned: Sequence[Returned], refused: Sequence[int]) -> list[dict[str, Any]]:
    """Return the limits that can be told, as they stand in a profile."""
    found: list[dict[str, Any]] = []
    texts = [(each.sent, next(iter(each.back.values()))) for each in returned if each.back]
    for sent, got in texts:
        if is_cut(sent, got) and not found:
            found.append({"measure": "stored", "over": "cut", **_unit(got)})
    passed = max((len(each) for pair in texts for each in pair), default=0)
    if refused:
        most = next((size for size in _ROUND if size > passed), None)
        if most is not None and most < min(refused):
            found.append({"measure": "stored", "unit": "characters", "most": most, "over": "refuse"})
    for name, unit in (("img", "pictures"), ("iframe", "frames")):
        counts = [count for sent, got in texts if (count := _count(sent, got, name))]
        if counts:
            found.append({"measure": "stored", "unit": unit, "most": max(counts), "over": "drop"})
    return found


def is_cut(sent: str, got: str) -> bool:
    """Tell whether what came back ends too soon: without the last mark, and without all cells behind some."""
    if END in got or END not in sent or len(got) >= len(sent):
        return False
    asked, there = [*cut(sent)], cut(got)
    last = max((place for place, number in enumerate(asked) if number in there), default=-1)
    if last >= 0 and any(ord(sign) > 0xFFFF for sign in cut(sent)[asked[last]]):
        return False  # it ends at a sign that this editor cannot store
    return last > 2 and all(number in there for number in asked[: last // 2])


def _unit(got: str) -> dict[str, Any]:
    """Return the unit in which a text that was cut has a size that people set limits at."""
    sizes = {"characters": len(got), "bytes": len(got.encode()), "utf-16": len(got.encode("utf-16-le")) // 2}
    unit = min(sizes, key=lambda each: (sizes[each] not in _ROUND, sizes[each] % 100 != 0, [*sizes].index(each)))
    return {"unit": unit, "most": max(1, sizes[unit])}


def _count(sent: str, got: str, name: str) -> int:
    """Return how many of an element stayed, where the first ones did and no later one; else 0."""
    addresses = [
        each.attributes.get("src")
        for each in parse_fragment(sent).tree.elements()
        if each.name == name and each.attributes.get("src", "https:").startswith("https:")
    ]
    there = [each for each in parse_fragment(got).tree.elements() if each.name == name]
    left = Counter(each.attributes.get("src") for each in there)
    stays = []
    for address in addresses:
        stays.append(left[address] > 0)
        left[address] -= 1
    first = stays.index(False) if False in stays else 0
    enough = 0 < first < len(stays) - 1 and not any(stays[first:])
    hosts = [host_of(address or "") for address in addresses]
    known = name == "img" or bool(set(hosts[first:]) & set(hosts[:first]))
    return len(there) if enough and first > 1 and known and len(cut(got)) > 2 else 0
