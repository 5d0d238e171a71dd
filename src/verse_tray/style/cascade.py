"""Which declaration wins on which element, among the styles of a piece (CSS Cascading and Inheritance Level 4)."""

from __future__ import annotations

import xml.etree.ElementTree as ElementTree
from collections.abc import Sequence
from functools import lru_cache
from typing import Any, NamedTuple

import cssselect2

from verse_tray.markup.names import HTML, MATHML, SVG
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.model.patterns import lazy
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.sheets import Sheet, StyleRule

_NAMESPACES = {
    HTML: "{http://www.w3.org/1999/xhtml}",
    SVG: "{http://www.w3.org/2000/svg}",
    MATHML: "{http://www.w3.org/1998/Math/MathML}",
}
# States that a still page does not have; a rule with one counts in a context of its own.
_STATES = lazy(
    r":(?:hover|focus|focus-visible|focus-within|active|visited|target|checked|open|popover-open|playing|paused|valid|invalid)\b(?!\()"
)
_BEFORE = ("", " ", ">", "+", "~", ",", "(")  # a state behind one of these stands alone: every element may have it
_QUADRATIC = lazy(r"~(?!=)|nth-(?:last-)?of-type|nth-(?:last-)?child\([^)]*\bof\b|:has\(")
_MOST_SIBLINGS = 500
_MOST_TESTS = 2_000_000  # selectors held against elements; about two seconds


Winners = dict[str, tuple[str, bool]]
"""Value and importance of the winning declaration, by property. Where a declaration holds in a condition (``@media``)
or a state (``:hover``, ``::before``) only, these stand behind the property and a space: they compete on their own."""

_Declared = tuple[tuple[str, tuple[str, bool]], ...]


Matched = dict[int, list[_Declared]]
"""What the rules that match an element declare, weakest first, by the element's key."""

_LOOKS_ELSEWHERE = lazy(r"[\[+~]|:(?!:|hover|focus|active|visited|not\(|is\(|where\()")


def looks_upward_only(sheet: Sheet) -> bool:
    """Tell whether the selectors of a sheet look at nothing but names, classes and identifiers, also of parents."""
    return not any(_LOOKS_ELSEWHERE.search(rule.selectors) for rule in sheet.rules)


class Cascade(NamedTuple):
    """The answer of :func:`cascade`."""

    winners: dict[int, Winners]
    """Winning declarations by the element's key; elements without any are missing."""
    skipped: tuple[StyleRule, ...]
    """Rules that could not be matched: a selector that is not understood, or too costly on this tree."""
    matched: Matched
    """What the rules that match an element declare."""


def cascade(tree: Tree, elements: Sequence[Element], sheets: Sequence[Sheet], alike: Cascade | None = None) -> Cascade:
    """Work out the winning declarations of every element of a tree.

    Args:
        tree: The tree.
        elements: Its elements in tree order.
        sheets: The style sheets of the piece, in the order of the tree.
        alike: The answer for a tree in which the same selectors of the same sheets match the elements of the same keys.
    """
    winners: dict[int, Winners] = {}
    skipped: list[StyleRule] = []
    matched: Matched = {}
    if alike is not None:
        matched, skipped = alike.matched, list(alike.skipped)
    elif any(sheet.rules for sheet in sheets):
        wide = max((len(element.children) for element in [tree.root, *elements]), default=0) > _MOST_SIBLINGS
        index = _Index(sheets, wide, skipped)
        if index.affordable(elements):
            matched = _match(tree, index)
        else:
            skipped = [rule for sheet in sheets for rule in sheet.rules]
    for element in elements:
        style = element.attributes.get("style")
        declared = matched.get(element.key, []) if element.key else []
        if style:
            declared = [*declared, _inline(style)]
        if not declared:
            continue
        found: Winners = {}
        for declarations in declared:
            for place, won in declarations:
                held = found.get(place)
                if held is None or won[1] or not held[1]:
                    found[place] = won
        if found:
            winners[element.key] = found
    return Cascade(winners, tuple(skipped), matched)


@lru_cache(maxsize=4096)
def _inline(style: str) -> _Declared:
    return _declared(parse_declarations(style), "")


def _declared(declarations: Sequence[Declaration], where: str) -> _Declared:
    return tuple(
        (f"{name} {where}" if where else name, (value, strong)) for name, value, strong, _ in declarations if name
    )


class _Index:
    """Compiled selectors by what the element they end in has to have."""

    def __init__(self, sheets: Sequence[Sheet], wide: bool, skipped: list[StyleRule]) -> None:
        self.by_id: dict[str, list[tuple[Any, int, _Declared]]] = {}
        self.by_class: dict[str, list[tuple[Any, int, _Declared]]] = {}
        self.by_name: dict[str, list[tuple[Any, int, _Declared]]] = {}
        self.others: list[tuple[Any, int, _Declared]] = []
        self.count = 0
        for rule in (rule for sheet in sheets for rule in sheet.rules):
            selectors, states = (
                _compile(rule.selectors) if not (wide and _QUADRATIC.search(rule.selectors)) else (None, "")
            )
            if selectors is None:
                skipped.append(rule)
                continue
            for selector in selectors:
                pseudo = f"::{selector.pseudo_element}" if selector.pseudo_element else ""
                where = f"{rule.condition} {states}{pseudo}".strip()
                self.count += 1
                if not selector.never_matches:
                    self._shelf(selector).append((selector, self.count, _declared(rule.declarations, where)))

    def affordable(self, elements: Sequence[Element]) -> bool:
        """Tell whether matching all elements stays within bounds: a cheap bound first, the exact count if need be."""
        if self.count * len(elements) <= _MOST_TESTS:
            return True
        return sum(len(self.candidates(element)) for element in elements) <= _MOST_TESTS

    def _shelf(self, selector: Any) -> list[tuple[Any, int, _Declared]]:
        if selector.id is not None:
            return self.by_id.setdefault(selector.id, [])
        if selector.class_name is not None:
            return self.by_class.setdefault(selector.class_name, [])
        if selector.local_name is not None:
            return self.by_name.setdefault(selector.lower_local_name, [])
        return self.others

    def candidates(self, element: Element) -> list[tuple[Any, int, _Declared]]:
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


@lru_cache(maxsize=8192)  # a check asks for each selector some four times
def _compile(selectors: str) -> tuple[list[Any] | None, str]:
    """Compile a selector list without its states, and return them beside it; None where it is not understood."""
    states = "".join(sorted(set(_STATES.findall(selectors))))
    if states:
        selectors = _STATES.sub(lambda m: "*" if selectors[m.start() - 1 : m.start()] in _BEFORE else "", selectors)
    try:
        return cssselect2.compile_selector_list(selectors), states
    except (ValueError, RecursionError, SyntaxError, MemoryError):  # not understood, numbers without end, too deep
        return None, states


def specificities(selectors: str) -> list[tuple[int, int, int]]:
    """Return the specificity of each selector of a list, pseudo-classes of states left out; none if not understood."""
    compiled, _ = _compile(selectors)
    return [] if compiled is None else [selector.specificity for selector in compiled]


def _match(tree: Tree, index: _Index) -> Matched:
    """Return what matching rules declare."""
    found: Matched = {}
    page, pairs = _etree(tree)
    (body,) = cssselect2.ElementWrapper.from_html_root(page).iter_children()
    stack: list[tuple[Element, Any]] = [(tree.root, body)]
    while stack:
        parent, wrapped_parent = stack.pop()
        previous = None
        for position, (element, etree) in enumerate(pairs[id(parent)]):
            wrapped = cssselect2.ElementWrapper(etree, wrapped_parent, position, previous, in_html_document=True)
            matching = [c for c in index.candidates(element) if c[0].test(wrapped)]
            if matching:
                matching.sort(key=_strength)
                found[element.key] = [declared for _, _, declared in matching]
            if id(element) in pairs:
                stack.append((element, wrapped))
            previous = wrapped
    return found


def _strength(candidate: tuple[Any, int, _Declared]) -> tuple[Any, int]:
    return candidate[0].specificity, candidate[1]


def _etree(tree: Tree) -> tuple[ElementTree.Element, dict[int, list[tuple[Element, ElementTree.Element]]]]:
    """Make a page of a tree in the form that selectors are matched against.

    Returns:
        Its root, and the child elements of each of our elements beside their new form, by ``id`` of the parent.
    """
    page = ElementTree.Element(f"{_NAMESPACES[HTML]}html")
    pairs: dict[int, list[tuple[Element, ElementTree.Element]]] = {}
    stack = [(tree.root, ElementTree.SubElement(page, f"{_NAMESPACES[HTML]}body"))]
    while stack:
        ours, theirs = stack.pop()
        made: list[tuple[Element, ElementTree.Element]] = []
        for child in ours.children:
            if type(child) is Element:
                name = f"{_NAMESPACES[child.namespace]}{child.name}"
                made.append((child, ElementTree.SubElement(theirs, name, child.attributes)))
            elif type(child) is Text and child.data:  # only whether there is any matters (:empty)
                theirs.text = "x"
        pairs[id(ours)] = made
        # what is in a template is no part of the page
        stack += [pair for pair in made if pair[0].children and pair[0].name != "template"]
    return page, pairs
