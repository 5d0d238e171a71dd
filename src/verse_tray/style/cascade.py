"""Which declaration wins on which element (CSS Cascading and Inheritance Level 5)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from typing import Any, NamedTuple

from msgspec import Struct

from verse_tray.markup.tree import Element, Tree
from verse_tray.model.patterns import lazy
from verse_tray.style.conditions import holds
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.matching import prepared
from verse_tray.style.property_table import canonical, hides
from verse_tray.style.selector_page import selector_page
from verse_tray.style.sheets import Sheet, StyleRule
from verse_tray.style.validity import is_valid

_QUADRATIC = lazy(r"~(?!=)|nth-(?:last-)?of-type|nth-(?:last-)?child\([^)]*\bof\b|:has\(")
_MOST_SIBLINGS = 500
_MOST_TESTS = 500_000  # selectors held against elements; about half a second
_MOST_LOOKED_DOWN = 300  # elements of a tree in which selectors may look at what is inside an element


Winners = dict[str, tuple[str, bool]]
"""Value and importance of the winning declarations by property, weakest first: what a later one hides wholly is not
among them. Where a declaration holds in a condition (``@media`` on the window) or a state (``:hover``, ``::before``)
only, these stand behind the property and a space: they compete on their own."""

_Declared = tuple[tuple[str, str], ...]


class Hit(NamedTuple):
    """A rule that matches an element, by the order in which it counts."""

    layer: tuple[float, ...]
    """Place of its cascade layer; a rule in none stands behind all of them."""
    specificity: tuple[int, int, int]
    order: int
    """Which rule of the page it is."""
    around: tuple[tuple[str, str], ...]
    """The at-rules around it."""
    where: str
    """The state and the pseudo-element that it is about; empty for the element as it stands."""
    normal: _Declared
    """What it declares."""
    important: _Declared
    """What it declares as important."""


Matched = dict[int, tuple[Hit, ...]]
"""The rules that match an element, weakest first, by :func:`identity`."""


def identity(element: Element) -> int:
    """Return an element's key, or, for one that an editor added, a number that no key has while the element lives."""
    return element.key or -id(element) - 1_000_000


_LOOKS_ELSEWHERE = lazy(r"[\[+~]|:(?!:|hover|focus|active|visited|not\(|is\(|where\()")


def looks_upward_only(sheet: Sheet) -> bool:
    """Tell whether the selectors of a sheet look at nothing but names, classes and identifiers, also of parents."""
    return not any(
        _LOOKS_ELSEWHERE.search(rule.selectors) or any(keyword == "scope" for keyword, _ in rule.around)
        for rule in sheet.rules
    )


class Cascade(Struct, frozen=True):
    """The answer of :func:`cascade`."""

    winners: dict[int, Winners]
    """Winning declarations by the element's key; elements without any are missing. To be read only: alike elements
    share them."""
    skipped: tuple[StyleRule, ...]
    """Rules that could not be matched: a selector that is not understood, or too costly on this tree."""
    matched: Matched
    """The rules that match an element."""
    bounded: bool = False
    """Whether some rules were left out as they would have taken too long."""


def cascade(tree: Tree, elements: Sequence[Element], sheets: Sequence[Sheet], alike: Cascade | None = None) -> Cascade:
    """Work out the winning declarations of every element of a tree.

    Args:
        tree: The tree.
        elements: Its elements in tree order.
        sheets: The style sheets of the piece, in the order of the tree.
        alike: The answer for a tree in which the same selectors of the same sheets match the elements of the same keys.
    """
    found_rules = Match(alike.matched, alike.skipped, alike.bounded) if alike else match(tree, elements, sheets)
    matched, skipped, bounded = found_rules
    winners: dict[int, Winners] = {}
    shared: dict[tuple[tuple[Hit, ...], str], Winners] = {}
    for element in elements:
        style = element.attributes.get("style", "")
        hits = matched.get(element.key, ()) if element.key else ()
        if not hits and not style:
            continue
        found = shared.get((hits, style))
        if found is None:
            found = shared[hits, style] = winners_of(hits, style)
        if found:
            winners[element.key] = found
    return Cascade(winners, skipped, matched, bounded)


class Match(NamedTuple):
    """The answer of :func:`match`."""

    matched: Matched
    """The rules that match an element."""
    skipped: tuple[StyleRule, ...] = ()
    """Rules that could not be matched."""
    bounded: bool = False
    """Whether some of them were left out as they would have taken too long."""


def match(tree: Tree, elements: Sequence[Element], sheets: Sequence[Sheet]) -> Match:
    """Find the rules that match each element of a tree."""
    skipped: list[StyleRule] = []
    if not any(sheet.rules for sheet in sheets):
        return Match({})
    wide = max((len(element.children) for element in [tree.root, *elements]), default=0) > _MOST_SIBLINGS
    index = Index(sheets, skipped, wide=wide, large=len(elements) > _MOST_LOOKED_DOWN)
    if not index.affordable(elements):
        return Match({}, tuple(rule for sheet in sheets for rule in sheet.rules), bounded=True)
    return Match(_match(tree, index), tuple(skipped), index.bounded)


def winners_of(hits: Iterable[Hit], style: str, width: int | None = None) -> Winners:
    """Return the winning declarations of an element.

    Args:
        hits: The rules that match it, weakest first.
        style: Its style attribute.
        width: Width of the window in CSS pixels: what depends on it holds or does not. None: that competes on its own.
    """
    found: Winners = {}
    for where, name, value, important in _in_order(hits, style, width):
        if value == "revert-layer":  # what stands below it counts, as if this were not there
            continue
        place = f"{name} {where}" if where else name
        found.pop(place, None)
        hidden = hides(name)
        if hidden:
            for other in [
                each for each in found if each.partition(" ")[2] == where and each.split(" ", 1)[0] in hidden
            ]:
                del found[other]
        elif name == "all":
            for other in [each for each in found if each.partition(" ")[2] == where and _is_reset_by_all(each)]:
                del found[other]
        found[place] = value, important
    return found


def _is_reset_by_all(place: str) -> bool:
    return not place.startswith("--") and place.partition(" ")[0] not in ("direction", "unicode-bidi")


def _in_order(hits: Iterable[Hit], style: str, width: int | None) -> Iterator[tuple[str, str, str, bool]]:
    """Yield place, property, value and importance of what matching rules and the element declare, weakest first."""
    live: list[tuple[str, Hit]] = []
    for hit in hits:
        where = hit.where
        if hit.around:
            held = holds(hit.around, width)
            if held is False or (held is None and width is not None):
                continue
            if held is None:
                conditions = " ".join(f"@{keyword} {prelude}".rstrip() for keyword, prelude in hit.around)
                where = f"{conditions} {where}".rstrip()
        live.append((where, hit))
    normal, important = _inline(style) if style else ((), ())
    for where, hit in live:
        for name, value in hit.normal:
            yield where, name, value, False
    for name, value in normal:
        yield "", name, value, False
    if any(hit.important for _, hit in live):
        # importance turns the order of the layers round, and nothing else
        for where, hit in sorted(live, key=lambda each: (tuple(-at for at in each[1].layer), *each[1][1:3])):
            for name, value in hit.important:
                yield where, name, value, True
    for name, value in important:
        yield "", name, value, True


@lru_cache(maxsize=4096)
def _inline(style: str) -> tuple[_Declared, _Declared]:
    return valid_declarations(parse_declarations(style))


@lru_cache(maxsize=4096)
def valid_declarations(declarations: tuple[Declaration, ...]) -> tuple[_Declared, _Declared]:
    """Return names and values of the declarations that browsers take; those that are important apart."""
    valid = [
        (name if name.startswith("--") else canonical(name), value, strong)
        for name, value, strong, _ in declarations
        if name and is_valid(name, value)
    ]
    return tuple(each[:2] for each in valid if not each[2]), tuple(each[:2] for each in valid if each[2])


_NEARER = 10**9  # of rules as strong as one another, those of a scope count before all others

_Candidate = tuple[Any, Any, Hit]
"""A selector, one that must not match as well (None for none), and what is declared."""


class Index:
    """Compiled selectors by what the element they end in has to have."""

    def __init__(self, sheets: Sequence[Sheet], skipped: list[StyleRule], *, wide: bool, large: bool) -> None:
        self.by_id: dict[str, list[_Candidate]] = {}
        self.by_class: dict[str, list[_Candidate]] = {}
        self.by_name: dict[str, list[_Candidate]] = {}
        self.others: list[_Candidate] = []
        self.count = 0
        self.bounded = False
        layers = _layer_order(sheets)
        for rule in (rule for sheet in sheets for rule in sheet.rules):
            if rule.around and holds(rule.around, None) is False:
                continue
            text = rule.selectors
            costly = (wide and _QUADRATIC.search(text) is not None) or (large and ":has(" in text)
            selectors = None if costly else prepared(text)
            if selectors is None:
                self.bounded = self.bounded or costly
                skipped.append(rule)
                continue
            normal, important = valid_declarations(rule.declarations)
            if not normal and not important:
                continue
            for selector in selectors:
                self.count += 1
                order = self.count + _NEARER * any(keyword == "scope" for keyword, _ in rule.around)
                hit = Hit(layers[rule.layer], selector.still.specificity, order, rule.around, selector.pseudo,
                          normal, important)  # fmt: skip
                self._add(selector.still, None, hit)
                if selector.stirred is not None:
                    self._add(selector.stirred, selector.still, hit._replace(where=selector.states + selector.pseudo))

    def _add(self, selector: Any, unless: Any, hit: Hit) -> None:
        if not selector.never_matches:
            self._shelf(selector).append((selector, unless, hit))

    def affordable(self, elements: Sequence[Element]) -> bool:
        """Tell whether matching all elements stays within bounds: a cheap bound first, the exact count if need be."""
        if self.count * len(elements) <= _MOST_TESTS:
            return True
        return sum(len(self.candidates(element)) for element in elements) <= _MOST_TESTS

    def _shelf(self, selector: Any) -> list[_Candidate]:
        if selector.id is not None:
            return self.by_id.setdefault(selector.id, [])
        if selector.class_name is not None:
            return self.by_class.setdefault(selector.class_name, [])
        if selector.local_name is not None:
            return self.by_name.setdefault(selector.lower_local_name, [])
        return self.others

    def candidates(self, element: Element) -> list[_Candidate]:
        """Return the selectors that could match an element."""
        found = self.by_name.get(element.name.lower(), self.others)
        if found is not self.others and self.others:
            found = found + self.others
        if not element.attributes:
            return found
        if self.by_id and (name := element.attributes.get("id")) in self.by_id:
            assert name is not None
            found = found + self.by_id[name]
        if self.by_class and (classes := element.attributes.get("class")):
            for each in dict.fromkeys(classes.split()):
                if each in self.by_class:
                    found = found + self.by_class[each]
        return found


def _layer_order(sheets: Sequence[Sheet]) -> dict[tuple[str, ...], tuple[float, ...]]:
    """Return the place of each cascade layer: in the order in which they are named first, their own rules last."""
    last = float("inf")
    found: dict[tuple[str, ...], tuple[float, ...]] = {(): (last,)}
    places: dict[tuple[str, ...], tuple[float, ...]] = {(): ()}
    inside: dict[tuple[str, ...], int] = {}
    for path in (path for sheet in sheets for path in sheet.layers):
        if path not in found:
            number = inside[path[:-1]] = inside.get(path[:-1], 0) + 1
            places[path] = (*places[path[:-1]], number)
            found[path] = (*places[path], last)
    return found


def specificities(selectors: str) -> list[tuple[int, int, int]]:
    """Return the specificity of each selector of a list; none if it is not understood."""
    return [selector.still.specificity for selector in prepared(selectors) or ()]


def _match(tree: Tree, index: Index) -> Matched:
    """Return the rules that match each element."""
    found: Matched = {}
    shared: dict[tuple[int, ...], tuple[Hit, ...]] = {}
    page = selector_page(tree)
    for element, wrapped in page.wrapped():
        matching = hits_of(index, element, wrapped)
        if matching:
            key = tuple(map(id, matching))  # alike elements share the answer
            found[identity(element)] = shared.setdefault(key, matching)
    return found


def hits_of(index: Index, element: Element, wrapped: Any) -> tuple[Hit, ...]:
    """Return the rules that match an element, weakest first; ``wrapped`` is the element as selectors test it."""
    candidates = index.candidates(element)
    if not candidates:
        return ()
    matching = [
        hit
        for selector, unless, hit in candidates
        if selector.test(wrapped) and not (unless is not None and unless.test(wrapped))
    ]
    matching.sort(key=_strength)
    return tuple(matching)


def _strength(hit: Hit) -> tuple[tuple[float, ...], tuple[int, int, int], int]:
    return hit[:3]
