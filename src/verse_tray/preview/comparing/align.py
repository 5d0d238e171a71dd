"""Which element of one piece is which of the other: by names, texts and order."""

from __future__ import annotations

from collections.abc import Iterator
from difflib import SequenceMatcher
from typing import NamedTuple

from verse_tray.journeys.highlights import numbered
from verse_tray.markup.tree import Element, Text, Tree

_MOST = 3000  # elements that are held against one another; what comes behind them is taken by its order


class Aligned(NamedTuple):
    """Elements of two trees, by number; of what one tree has alone, the outermost."""

    pairs: dict[int, int]
    """The number in the second tree by that in the first, of elements that are one another's."""
    first_only: tuple[int, ...]
    second_only: tuple[int, ...]


def aligned(first: Tree, second: Tree) -> Aligned:
    """Find the elements of two trees that correspond."""
    ours, theirs = list(_signed(first)), list(_signed(second))
    pairs: dict[int, int] = {}
    gone: list[tuple[int, str]] = []
    new: list[tuple[int, str]] = []
    matcher = SequenceMatcher(None, [sign for _, sign in ours[:_MOST]], [sign for _, sign in theirs[:_MOST]], False)
    for kind, a, b, c, d in matcher.get_opcodes():
        if kind == "equal":
            pairs.update((ours[a + i][0], theirs[c + i][0]) for i in range(b - a))
            continue
        left = [(number, sign[0]) for number, sign in ours[a:b]]
        right = [(number, sign[0]) for number, sign in theirs[c:d]]
        for number, name in left:  # texts differ: the next one of the same name it is
            found = next((at for at, each in enumerate(right) if each[1] == name), None)
            if found is None:
                gone.append((number, name))
            else:
                pairs[number] = right[found][0]
                new += right[:found]
                right = right[found + 1 :]
        new += right
    for (number, sign), (other, other_sign) in zip(ours[_MOST:], theirs[_MOST:], strict=False):
        if sign[0] == other_sign[0]:
            pairs[number] = other
    return Aligned(pairs, _outermost(first, gone), _outermost(second, new))


def _outermost(tree: Tree, alone: list[tuple[int, str]]) -> tuple[int, ...]:
    numbers = {number for number, _ in alone}
    known = {id(element): number for element, number in numbered(tree)}
    inner = {
        known[id(child)]
        for element in tree.elements()
        if known[id(element)] in numbers
        for child in element.children
        if type(child) is Element
    }
    return tuple(sorted(numbers - inner))


def _signed(tree: Tree) -> Iterator[tuple[int, tuple[str, str, str]]]:
    for element, number in numbered(tree):
        if element.name not in ("script", "style", "template", "meta", "link", "title", "head"):
            yield number, (element.name, own_words(element), element.attributes.get("src", ""))


def own_words(element: Element) -> str:
    """Return the words of an element that stand in no element within it."""
    return " ".join(word for child in element.children if type(child) is Text for word in child.data.split())
