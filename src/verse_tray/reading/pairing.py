"""Which run of one reading is which of another: by their keys, and by their words where keys are gone."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable
from difflib import SequenceMatcher

from msgspec import Struct

from verse_tray.model.patterns import lazy
from verse_tray.reading.records import Reading, Run

_WORD = lazy(r"\w+|[^\w\s]+")
_ALIKE = str.maketrans(
    {
        "\u2018": "'",
        "\u2019": "'",
        "\u201c": '"',
        "\u201d": '"',
        "\u2013": "-",
        "\u2014": "-",
        "\u2026": ".",
        "\xa0": " ",
    }
)
_MOST_ALIGNED = 3_000  # words that are aligned in their order; of more, each is looked for anywhere

_Words = list[tuple[str, int]]
"""Words, each with the number of its run."""


class Pairing(Struct):
    """Runs of two readings that are one another."""

    pairs: list[tuple[int, int, int]] = []
    """Numbers of two runs, and how many characters they share."""
    lost: list[tuple[int, str]] = []
    """Words that are not there any more, with the number of their run."""
    new: list[tuple[int, str]] = []
    """Words that nobody wrote as text, with the number of their run in the second reading."""
    first: dict[int, int] = {}
    """The first run that a part of a run is in, by number."""
    last: dict[int, int] = {}
    """The last one."""
    kept: int = 0
    """Characters of the markup's own text that are still shown, white space left out."""
    of: int = 0
    """How many there were."""


def pair(before: Reading, after: Reading, *, by_text: bool = False) -> Pairing:
    """Find the runs of one reading again in another.

    Args:
        before: The reading of what was written.
        after: That of what readers get.
        by_text: Whether the keys of the two have nothing to do with one another.
    """
    found = Pairing(of=sum(_size(run.text) for run in before.runs if not run.made))
    if by_text:
        _pair_by_text(found, before, after)
        return found
    loose_before: _Words = []
    loose_after: _Words = []
    ones, twos = _by_key(before.runs), _by_key(after.runs)
    for key, numbers in ones.items():
        others = twos.pop(key, [])
        if key == (0, False):
            loose_before += _words(before.runs, numbers)
            loose_after += _words(after.runs, others)
        elif not others:
            loose_before += _words(before.runs, numbers)
        elif len(numbers) == len(others) and all(
            before.runs[one].text == after.runs[other].text for one, other in zip(numbers, others, strict=True)
        ):
            for one, other in zip(numbers, others, strict=True):
                _add(found, before, one, other, _size(before.runs[one].text))
        else:
            _align(found, before, _words(before.runs, numbers), _words(after.runs, others), loose_before, loose_after)
    for numbers in twos.values():
        loose_after += _words(after.runs, numbers)
    ordered = sorted(loose_before, key=_number), sorted(loose_after, key=_number)
    _find_again(found, before, *ordered, loosely=False)
    return found


def _pair_by_text(found: Pairing, before: Reading, after: Reading) -> None:
    """Pair runs that stand in the same order in both readings, and the words of all others by what they say."""
    ones, twos = [run.text for run in before.runs], [run.text for run in after.runs]
    loose, others = list(range(len(ones))), list(range(len(twos)))
    if max(len(ones), len(twos)) <= _MOST_ALIGNED or ones == twos:
        blocks = [each for each in _blocks(ones, twos) if each[2]]
        for start, other, size in blocks:
            for step in range(size):
                _add(found, before, start + step, other + step, _size(ones[start + step]))
        paired = {start + step for start, _, size in blocks for step in range(size)}
        taken = {other + step for _, other, size in blocks for step in range(size)}
        loose, others = [n for n in loose if n not in paired], [n for n in others if n not in taken]
    _find_again(found, before, _words(before.runs, loose), _words(after.runs, others), loosely=True)


def text_size(reading: Reading) -> int:
    """Return how many characters of text readers see, or can bring forth, white space left out."""
    hidden = sum(sum(map(len, _WORD.findall(data))) for _, data in reading.hidden)
    return hidden + sum(_size(run.text) for run in reading.runs if not run.made)


def _number(word: tuple[str, int]) -> int:
    return word[1]


def _size(text: str) -> int:
    return len(text) - text.count(" ")


def _by_key(runs: list[Run]) -> dict[tuple[int, bool], list[int]]:
    found: dict[tuple[int, bool], list[int]] = {}
    for number, run in enumerate(runs):
        key = (run.key, run.made) if run.key else (0, False)
        found.setdefault(key, []).append(number)
    return found


def _words(runs: list[Run], numbers: Iterable[int]) -> _Words:
    return [(word, number) for number in numbers for word in _WORD.findall(runs[number].text)]


def _plain(words: _Words, *, loosely: bool = False) -> list[str]:
    return [(word.translate(_ALIKE) if loosely else word).casefold() for word, _ in words]


def _add(found: Pairing, before: Reading, one: int, other: int, size: int) -> None:
    if found.pairs and found.pairs[-1][:2] == (one, other):
        found.pairs[-1] = (one, other, found.pairs[-1][2] + size)
    else:
        found.pairs.append((one, other, size))
        found.first.setdefault(one, other)
        found.last[one] = other
    if not before.runs[one].made:
        found.kept += size


def _align(
    found: Pairing, before: Reading, ones: _Words, twos: _Words, loose_before: _Words, loose_after: _Words
) -> None:
    """Pair the words of two texts in their order; what is not found is left for a wider search."""
    a, b = _plain(ones), _plain(twos)
    if max(len(a), len(b)) > _MOST_ALIGNED:
        loose_before += ones
        loose_after += twos
        return
    at = to = 0
    for start, other, size in SequenceMatcher(None, a, b, autojunk=False).get_matching_blocks():
        _loose(found, before, ones[at:start], twos[to:other], loose_before, loose_after)
        for step in range(size):
            (word, one), (_, two) = ones[start + step], twos[other + step]
            _add(found, before, one, two, len(word))
        at, to = start + size, other + size


def _loose(
    found: Pairing, before: Reading, ones: _Words, twos: _Words, loose_before: _Words, loose_after: _Words
) -> None:
    """Keep what two stretches share at their beginning: a text may be cut within a word."""
    if ones and twos and (shared := _shared(ones[0][0], twos[0][0])):
        _add(found, before, ones[0][1], twos[0][1], shared)
        rest, other = (ones[0][0][shared:], ones[0][1]), (twos[0][0][shared:], twos[0][1])
        ones = ([rest] if rest[0] else []) + ones[1:]
        twos = ([other] if other[0] else []) + twos[1:]
    loose_before += ones
    loose_after += twos


def _shared(one: str, other: str) -> int:
    short = min(len(one), len(other))
    if one[:short] != other[:short] and one[:1] != other[:1]:
        return 0
    return next((at for at in range(short) if one[at] != other[at]), short)


def _find_again(found: Pairing, before: Reading, ones: _Words, twos: _Words, *, loosely: bool) -> None:
    """Pair words by what they say: in their order where they are few, and then anywhere, as some have moved."""
    a, b = _plain(ones, loosely=loosely), _plain(twos, loosely=loosely)
    paired: set[int] = set()
    taken: set[int] = set()
    if a and b and (a == b or max(len(a), len(b)) <= _MOST_ALIGNED):
        blocks = [(0, 0, len(a))] if a == b else _blocks(a, b)
        for start, other, size in blocks:
            for step in range(size):
                _add(found, before, ones[start + step][1], twos[other + step][1], len(ones[start + step][0]))
            paired.update(range(start, start + size))
            taken.update(range(other, other + size))
    places: dict[str, list[int]] = {}
    for number in range(len(b) - 1, -1, -1):
        if number not in taken:
            places.setdefault(b[number], []).append(number)
    for number, word in enumerate(a):
        if number in paired:
            continue
        if places.get(word):
            other = places[word].pop()
            taken.add(other)
            _add(found, before, ones[number][1], twos[other][1], len(ones[number][0]))
        else:
            found.lost.append((ones[number][1], ones[number][0]))
    found.new = [(twos[number][1], twos[number][0]) for number in range(len(b)) if number not in taken]


def _blocks(a: list[str], b: list[str]) -> list[tuple[int, int, int]]:
    """Return what two lists of words share, in order; what they begin and end with is not searched for."""
    short = min(len(a), len(b))
    front = next((at for at in range(short) if a[at] != b[at]), short)
    back = next((at for at in range(short - front) if a[-1 - at] != b[-1 - at]), short - front)
    ones, twos = a[front : len(a) - back], b[front : len(b) - back]
    inner = SequenceMatcher(None, ones, twos, autojunk=False).get_matching_blocks() if ones and twos else []
    return [
        (0, 0, front),
        *((one + front, two + front, size) for one, two, size in inner),
        (len(a) - back, len(b) - back, back),
    ]


def words_of(texts: Iterable[str]) -> Counter[str]:
    """Return the words of texts with how often each stands there."""
    return Counter(word.translate(_ALIKE).casefold() for text in texts for word in _WORD.findall(text))


def plain_word(word: str) -> str:
    """Return a word as it is compared."""
    return re.sub(r"\s", "", word).translate(_ALIKE).casefold()
