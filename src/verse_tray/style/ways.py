"""Matching by the way from the root: for sheets whose selectors look at nothing but an element and what is around it.

Alike elements in alike surroundings match the same rules, in this tree and in the next.
"""

from __future__ import annotations

import xml.etree.ElementTree as ElementTree
from collections.abc import Sequence
from itertools import count
from typing import Any

import cssselect2
from msgspec import Struct

from verse_tray.markup.tree import Element, Tree
from verse_tray.style.cascade import Hit, Index, Matched, hits_of, identity, looks_upward_only
from verse_tray.style.names import names_in
from verse_tray.style.selector_page import NAMESPACES
from verse_tray.style.sheets import Sheet

_MOST = 20_000  # ways that are known before they are begun anew


class _Way(Struct, frozen=True):
    """An element by what it is and what is around it."""

    number: int
    wrapped: Any
    """It, as selectors test it."""
    hits: tuple[Hit, ...]
    """The rules that match it, weakest first."""


class Ways:
    """The rules of some sheets that match elements, by what these are and what is around them."""

    def __init__(self, sheets: Sequence[Sheet]) -> None:
        self.is_enough = all(map(looks_upward_only, sheets)) and not any(sheet.layers for sheet in sheets)
        """Whether these sheets can be matched so."""
        self._sheets = sheets
        self._names = {each.name for sheet in sheets for rule in sheet.rules for each in names_in(rule.selectors)}
        self._numbers = count(1)  # several threads may use this
        self._begin()

    def _begin(self) -> None:
        self._index = Index(self._sheets, [], wide=False, large=False)
        self._ways: dict[tuple[int, str, str, tuple[str, ...], str], _Way] = {}
        self._shared: dict[tuple[int, ...], tuple[Hit, ...]] = {}

    def match(self, tree: Tree) -> Matched:
        """Return the rules that match each element of a document."""
        if len(self._ways) > _MOST:
            self._begin()
        found: Matched = {}
        top = next((child for child in tree.root.children if type(child) is Element and child.name == "html"), None)
        if top is None:
            return found
        ways, names = self._ways, self._names
        stack: list[tuple[Element, _Way | None]] = [(top, None)]
        while stack:
            element, above = stack.pop()
            attributes = element.attributes
            classes: tuple[str, ...] = ()
            named = ""
            if attributes:
                if typed := attributes.get("class"):
                    classes = tuple(each for each in typed.split() if each in names)
                if (typed := attributes.get("id", "")) in names:
                    named = typed
            key = (above.number if above else 0, element.name, element.namespace, classes, named)
            way = ways.get(key)
            if way is None:
                way = ways.setdefault(key, self._new(element, classes, named, above))
            if way.hits:
                found[identity(element)] = way.hits
            if element.children and element.name != "template":  # what is in one is no part of the page
                stack += [(child, way) for child in element.children if type(child) is Element]
        return found

    def _new(self, element: Element, classes: tuple[str, ...], named: str, above: _Way | None) -> _Way:
        attributes = {**({"class": " ".join(classes)} if classes else {}), **({"id": named} if named else {})}
        alone = ElementTree.Element(f"{NAMESPACES[element.namespace]}{element.name}", attributes)
        if above is None:
            wrapped = cssselect2.ElementWrapper.from_html_root(alone)
        else:
            wrapped = cssselect2.ElementWrapper(alone, above.wrapped, 0, None, in_html_document=True)
        bare = Element(element.name, element.namespace, attributes, 0, [])
        hits = hits_of(self._index, bare, wrapped)
        hits = self._shared.setdefault(tuple(map(id, hits)), hits) if hits else hits
        return _Way(next(self._numbers), wrapped, hits)
