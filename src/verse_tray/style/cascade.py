"""Which declaration wins on which element, among the styles of a piece (CSS Cascading and Inheritance Level 4)."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ElementTree
from collections.abc import Sequence
from typing import NamedTuple

import cssselect2

from verse_tray.markup.names import HTML, MATHML, SVG
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.sheets import Sheet, StyleRule

_NAMESPACES = {
    HTML: "{http://www.w3.org/1999/xhtml}",
    SVG: "{http://www.w3.org/2000/svg}",
    MATHML: "{http://www.w3.org/1998/Math/MathML}",
}
# States that a still page does not have; a rule with one counts in a context of its own.
_STATES = re.compile(
    r":(?:hover|focus|focus-visible|focus-within|active|visited|target|checked|open|popover-open|playing|paused|valid|invalid)\b(?!\()"
)
_QUADRATIC = re.compile(r"~(?!=)|nth-(?:last-)?of-type|nth-(?:last-)?child\([^)]*\bof\b|:has\(")
_MOST_SIBLINGS = 500


class Context(NamedTuple):
    """Where a winning declaration holds."""

    condition: str
    """At-rules around it; empty for the plain page."""
    state: str
    """Pseudo-classes of state and pseudo-elements in its selector; empty for the element as it stands."""


Winners = dict[tuple[Context, str], tuple[str, bool]]
"""Value and importance of the winning declaration, by context and property."""

_PLAIN = Context("", "")


class Cascade(NamedTuple):
    """The answer of :func:`cascade`."""

    winners: dict[int, Winners]
    """Winning declarations by the element's key; elements without any are missing."""
    skipped: tuple[StyleRule, ...]
    """Rules that could not be matched: a selector that is not understood, or too costly on this tree."""


def cascade(tree: Tree, elements: Sequence[Element], sheets: Sequence[Sheet]) -> Cascade:
    """Work out the winning declarations of every element of a tree.

    Args:
        tree: The tree.
        elements: Its elements in tree order.
        sheets: The style sheets of the piece, in the order of the tree.
    """
    winners: dict[int, Winners] = {}
    skipped: list[StyleRule] = []
    matched: dict[int, list[tuple[Context, Sequence[Declaration]]]] = {}
    if any(sheet.rules for sheet in sheets):
        matched = _match(tree, sheets, skipped)
    for element in elements:
        style = element.attributes.get("style")
        rules = matched.get(id(element))
        if not style and not rules:
            continue
        found: Winners = {}
        if rules:
            for context, declarations in rules:
                _apply(found, context, declarations)
        if style:
            _apply(found, _PLAIN, parse_declarations(style))
        if found:
            winners[element.key] = found
    return Cascade(winners, tuple(skipped))


def _apply(found: Winners, context: Context, declarations: Sequence[Declaration]) -> None:
    for name, value, important, _ in declarations:
        if not name:
            continue
        held = found.get((context, name))
        if held is None or important or not held[1]:
            found[context, name] = (value, important)


def _match(
    tree: Tree, sheets: Sequence[Sheet], skipped: list[StyleRule]
) -> dict[int, list[tuple[Context, Sequence[Declaration]]]]:
    wide = _widest(tree) > _MOST_SIBLINGS
    matcher = cssselect2.Matcher()
    for sheet in sheets:
        for rule in sheet.rules:
            if wide and _QUADRATIC.search(rule.selectors):
                skipped.append(rule)
                continue
            states = "".join(sorted(set(_STATES.findall(rule.selectors))))
            still = (
                re.sub(r"(^|[\s>+~,(])(?=$|[\s>+~,)])", r"\1*", _STATES.sub("", rule.selectors))
                if states
                else rule.selectors
            )
            try:
                selectors = cssselect2.compile_selector_list(still)
            except (cssselect2.SelectorError, RecursionError):
                skipped.append(rule)
                continue
            for selector in selectors:
                matcher.add_selector(selector, (rule, states))
    found: dict[int, list[tuple[Context, Sequence[Declaration]]]] = {}
    origin, etree = _etree(tree)
    for wrapped in cssselect2.ElementWrapper.from_html_root(etree).iter_subtree():
        element = origin.get(wrapped.etree_element)
        if element is None:
            continue
        for _, _, pseudo, (rule, states) in matcher.match(wrapped):
            state = f"{states}::{pseudo}" if pseudo else states
            found.setdefault(id(element), []).append((Context(rule.condition, state), rule.declarations))
    return found


def _widest(tree: Tree) -> int:
    return max((len(element.children) for element in [tree.root, *tree.elements()]), default=0)


def _etree(tree: Tree) -> tuple[dict[ElementTree.Element, Element], ElementTree.Element]:
    """Return the tree in the form that selectors are matched against, and the way back."""
    root = ElementTree.Element(f"{_NAMESPACES[HTML]}body")
    origin: dict[ElementTree.Element, Element] = {}
    pairs = [(tree.root, root)]
    while pairs:
        ours, theirs = pairs.pop()
        last: ElementTree.Element | None = None
        for child in ours.children:
            if type(child) is Element:
                last = ElementTree.SubElement(theirs, f"{_NAMESPACES[child.namespace]}{child.name}", child.attributes)
                origin[last] = child
                if child.children:
                    pairs.append((child, last))
            elif type(child) is Text:  # only whether there is any matters (:empty)
                if last is None:
                    theirs.text = (theirs.text or "") + child.data[:1]
                else:
                    last.tail = child.data[:1]
    return origin, root
