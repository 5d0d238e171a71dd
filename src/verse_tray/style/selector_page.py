"""A tree in the form that selectors are matched against."""

from __future__ import annotations

import xml.etree.ElementTree as ElementTree
from collections.abc import Iterator
from typing import Any

import cssselect2
from msgspec import Struct

from verse_tray.markup.names import HTML, MATHML, SVG
from verse_tray.markup.tree import Element, Text, Tree

NAMESPACES = {
    HTML: "{http://www.w3.org/1999/xhtml}",
    SVG: "{http://www.w3.org/2000/svg}",
    MATHML: "{http://www.w3.org/1998/Math/MathML}",
}
"""What stands before the names of elements."""


class SelectorPage(Struct, frozen=True):
    """A page made of a tree: a fragment stands in a body."""

    root: ElementTree.Element
    """Its root element."""
    pairs: dict[int, list[tuple[Element, ElementTree.Element]]]
    """The child elements of each of our elements beside their new form, by ``id`` of the parent."""
    top: Element
    """The element of ours whose children stand directly in ``root``, or in its body."""
    body: bool
    """Whether they stand in a body that the tree does not have."""

    def wrapped(self) -> Iterator[tuple[Element, Any]]:
        """Yield each element of the tree with the wrapper that selectors test; parents first."""
        root = cssselect2.ElementWrapper.from_html_root(self.root)
        parent = root
        if self.body:
            (parent,) = root.iter_children()
        elif self.top.name:
            yield self.top, root
        stack: list[tuple[Element, Any]] = [(self.top, parent)]
        while stack:
            ours, wrapped_parent = stack.pop()
            previous = None
            for position, (element, etree) in enumerate(self.pairs[id(ours)]):
                wrapped = cssselect2.ElementWrapper(etree, wrapped_parent, position, previous, in_html_document=True)
                yield element, wrapped
                if id(element) in self.pairs:
                    stack.append((element, wrapped))
                previous = wrapped


def selector_page(tree: Tree) -> SelectorPage:
    """Make a page of a tree, of a document or a fragment."""
    top = next((child for child in tree.root.children if type(child) is Element and child.name == "html"), None)
    root = ElementTree.Element(f"{NAMESPACES[HTML]}html", {} if top is None else top.attributes)
    ours = tree.root if top is None else top
    theirs = ElementTree.SubElement(root, f"{NAMESPACES[HTML]}body") if top is None else root
    pairs: dict[int, list[tuple[Element, ElementTree.Element]]] = {}
    stack = [(ours, theirs)]
    while stack:
        element, etree = stack.pop()
        made: list[tuple[Element, ElementTree.Element]] = []
        for child in element.children:
            if type(child) is Element:
                name = f"{NAMESPACES[child.namespace]}{child.name}"
                made.append((child, ElementTree.SubElement(etree, name, child.attributes)))
            elif type(child) is Text and child.data:  # only whether there is any matters (:empty)
                etree.text = "x"
        pairs[id(element)] = made
        # what is in a template is no part of the page
        stack += [pair for pair in made if pair[0].children and pair[0].name != "template"]
    return SelectorPage(root, pairs, ours, top is None)
