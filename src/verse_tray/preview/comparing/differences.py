"""What differs between two pages, element by element, in pixels."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from verse_tray.journeys.highlights import numbered
from verse_tray.markup.tree import Element, Tree
from verse_tray.preview.comparing.align import Aligned, own_words
from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.style.colours import Colour, written

_LEAST = 0.75  # pixels
_LONG = 40  # characters of a text that is told


class Difference(NamedTuple):
    """One thing that two elements differ in."""

    first: int
    """Number of the element in the first piece."""
    second: int
    """Number of the element in the second piece."""
    name: str
    """Name of the element."""
    what: str
    """What differs, such as ``gap above``."""
    values: tuple[str, str]
    """Its two values."""


class Side(NamedTuple):
    """One of the two pieces in its page."""

    tree: Tree
    facts: PageFacts


def differences(first: Side, second: Side, both: Aligned) -> Iterator[Difference]:
    """Yield what differs, in the order of the first piece.

    What follows from something else is left out: a box that is higher because what is in it is, and what stands further
    down because something above it is higher.
    """
    ours, theirs = first.facts.shown, second.facts.shown
    above = _neighbours(first), _neighbours(second)
    parents = _parents(first.tree)
    words = [{number: own_words(element) for element, number in numbered(side.tree)} for side in (first, second)]
    told: dict[int, set[str]] = {}
    found: list[Difference] = []
    for number, other in both.pairs.items():
        one, two = ours.get(number), theirs.get(other)
        if one is None or two is None:
            if (one is None) != (two is None):
                values = ("shown", "not shown") if two is None else ("not shown", "shown")
                found.append(Difference(number, other, (one or two).name, "it is", values))  # type: ignore[union-attr]
            continue
        own = dict(_own(one, two, above[0].get(number), above[1].get(other)))
        own |= _placed(one, two, first.facts, second.facts)
        if words[0].get(number) != words[1].get(other):
            own = {"text": (_short(words[0].get(number, "")), _short(words[1].get(other, ""))), **own}
        told[number] = set(own)
        found += [Difference(number, other, one.name, what, values) for what, values in own.items()]
    inner = _with_inner(told, parents)
    for each in found:
        if each.what == "height" and inner.get(each.first):
            continue
        parent = parents.get(each.first, 0)
        if each.what in ("width", "distance from the left") and _same_shift(each, parent, ours, theirs, both.pairs):
            continue
        yield each


def grouped(found: tuple[Difference, ...]) -> list[list[Difference]]:
    """Return differences, those of elements of one name with the same values together."""
    alike: dict[tuple[object, ...], list[Difference]] = {}
    for each in found:
        alike.setdefault((each.name, each.what, each.values), []).append(each)
    return list(alike.values())


def sentence(each: Difference, names: tuple[str, str]) -> str:
    """Return a difference in words."""
    if each.what == "it is":
        return f"<{each.name}> is {each.values[0]} in {names[0]} and {each.values[1]} in {names[1]}."
    return f"<{each.name}>: {each.what} {each.values[0]} in {names[0]}, {each.values[1]} in {names[1]}."


def _own(
    one: ElementFacts, two: ElementFacts, above: _Gap | None, other_above: _Gap | None
) -> Iterator[tuple[str, tuple[str, str]]]:
    if above is not None and other_above is not None and abs(above.size - other_above.size) >= _LEAST:
        if above.what == other_above.what:
            yield above.what, (_px(above.size), _px(other_above.size))
    if one.text or two.text:
        if abs(one.size - two.size) >= 0.05:
            yield "text size", (_px(one.size), _px(two.size))
        if one.family != two.family:
            yield "font", (one.family, two.family)
        if one.bold != two.bold:
            yield "weight", ("bold" if one.bold else "normal", "bold" if two.bold else "normal")
        if one.ink and two.ink and _hex(one.ink) != _hex(two.ink):
            yield "text colour", (_hex(one.ink), _hex(two.ink))
    if one.ground and two.ground and _hex(one.ground) != _hex(two.ground):
        yield "colour behind the text", (_hex(one.ground), _hex(two.ground))


def _placed(one: ElementFacts, two: ElementFacts, page: PageFacts, other: PageFacts) -> dict[str, tuple[str, str]]:
    found = {}
    left, other_left = one.x - page.piece[0], two.x - other.piece[0]
    for what, a, b in (
        ("distance from the left", left, other_left),
        ("width", one.width, two.width),
        ("height", one.height, two.height),
    ):
        if abs(a - b) >= _LEAST and one.display != "inline":
            found[what] = (_px(a), _px(b))
    return found


def _same_shift(
    each: Difference,
    parent: int,
    ours: Mapping[int, ElementFacts],
    theirs: Mapping[int, ElementFacts],
    pairs: Mapping[int, int],
) -> bool:
    """Tell whether an element is wider, or further to the right, by just as much as what it stands in."""
    outer, other_outer = ours.get(parent), theirs.get(pairs.get(parent, 0))
    one, two = ours[each.first], theirs[each.second]
    if outer is None or other_outer is None:
        return False
    if each.what == "width":
        return abs((one.width - two.width) - (outer.width - other_outer.width)) < _LEAST
    return abs((one.x - two.x) - (outer.x - other_outer.x)) < _LEAST


class _Gap(NamedTuple):
    what: str
    size: float


def _neighbours(side: Side) -> dict[int, _Gap]:
    """Return how far each box stands below the one before it, or below the top of what it stands in.

    The first one of all is told by its distance from the top of the page: its margin reaches out of the piece.
    """
    shown = side.facts.shown
    numbers = {id(element): number for element, number in numbered(side.tree)}
    found: dict[int, _Gap] = {}
    for parent in (side.tree.root, *side.tree.elements()):
        holder = shown.get(numbers.get(id(parent), 0))
        what = "distance from the top" if parent is side.tree.root else "gap above"
        top = 0.0 if parent is side.tree.root else None if holder is None else holder.y
        for child in parent.children:
            facts = shown.get(numbers.get(id(child), 0)) if type(child) is Element else None
            if facts is None or facts.display in ("inline", "table-cell") or not facts.height:
                continue
            if top is not None and facts.y - top > -_LEAST:  # else it stands beside the one before it
                found[facts.number] = _Gap(what, facts.y - top)
            top, what = facts.y + facts.height, "gap above"
    return found


def _parents(tree: Tree) -> dict[int, int]:
    numbers = {id(element): number for element, number in numbered(tree)}
    return {
        numbers[id(child)]: numbers[id(parent)]
        for parent in tree.elements()
        for child in parent.children
        if type(child) is Element
    }


def _with_inner(told: Mapping[int, set[str]], parents: Mapping[int, int]) -> dict[int, bool]:
    """Tell of which elements something in them differs in a way that makes them higher."""
    found: dict[int, bool] = {}
    for number, what in told.items():
        if not what - {"width", "distance from the left"}:
            continue
        parent = parents.get(number)
        while parent is not None and parent not in found:
            found[parent] = True
            parent = parents.get(parent)
    return found


def _short(text: str) -> str:
    return f"“{text if len(text) <= _LONG else text[: _LONG - 1] + '…'}”"


def _px(length: float) -> str:
    return f"{round(length, 1):g} px"


def _hex(colour: tuple[float, float, float]) -> str:
    return written(Colour(*(part / 255 for part in colour)), "hex")
