"""A tree as the sequence of what stands in it: words, pictures, scripts, empty elements, and what is around each."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.patterns import lazy

_WORD = lazy(r"\w+|[^\w\s]")
CODE = frozenset(("script", "style"))
"""Elements whose text is code."""
_ADDRESSES = ("src", "href", "data", "value", "content", "name", "id", "class")


class Leaf(NamedTuple):
    """Something that has nothing in it."""

    token: str
    """What it is: a word, a sign, or the start of a tag with what tells it from others."""
    node: Node
    """The text that the word is in, or the element."""
    parent: int
    """Index of the element around it in :attr:`Leaves.elements`; -1 for none."""
    child: int
    """Which child of that element it is in, 0-based."""
    spaced: bool = False
    """Whether white space stands before it in its text."""

    @property
    def is_word(self) -> bool:
        """Whether it is a word or a sign."""
        return type(self.node) is Text


class Leaves:
    """The leaves of a tree, in order, and its elements with the elements around them."""

    def __init__(self, nodes: Sequence[Node]) -> None:
        """Walk nodes that stand beside one another, and all that is in them."""
        self.elements: list[Element] = []
        """Elements in tree order."""
        self.around: list[int] = []
        """Index of the element around each element; -1 for none."""
        self.place: list[int] = []
        """Which child of the element around it each element is, 0-based."""
        self.leaves: list[Leaf] = []
        """The leaves."""
        self.first: list[int] = []
        """Index of the first leaf in or behind the start of each element."""
        self.last: list[int] = []
        """Index of the first leaf behind each element."""
        stack: list[tuple[Node | int, int, int]] = []
        stack += [(node, -1, at) for at, node in enumerate(nodes)][::-1]
        while stack:
            node, parent, at = stack.pop()
            if isinstance(node, int):
                self.last[node] = len(self.leaves)
            elif type(node) is Text:
                data = node.data
                for word in _WORD.finditer(data):
                    start = word.start()
                    spaced = start > 0 and data[start - 1].isspace()
                    self.leaves.append(Leaf(word[0], node, parent, at, spaced))
            elif type(node) is Element:
                own = len(self.elements)
                self.elements.append(node)
                self.around.append(parent)
                self.place.append(at)
                self.first.append(len(self.leaves))
                self.last.append(len(self.leaves))
                if node.name in CODE or not _has_leaves(node):
                    self.leaves.append(Leaf(_sign(node), node, parent, at))
                    self.last[own] = len(self.leaves)
                else:
                    stack.append((own, 0, 0))
                    stack += [(child, own, place) for place, child in enumerate(node.children)][::-1]

    def chain(self, leaf: int) -> list[int]:
        """Return the elements around a leaf, the outermost first; an element that is a leaf is not among them."""
        found: list[int] = []
        at = self.leaves[leaf].parent
        while at >= 0:
            found.append(at)
            at = self.around[at]
        return found[::-1]


def text_of(leaves: Sequence[Leaf]) -> str:
    """Return the text of neighbouring leaves; of one that is an element, its tag."""
    said = [
        f"{' ' if at and (leaf.spaced or not leaf.is_word) else ''}"
        f"{leaf.token if leaf.is_word else leaf.token.split()[0] + '>'}"
        for at, leaf in enumerate(leaves)
    ]
    return "".join(said)


def _has_leaves(element: Element) -> bool:
    return any(type(child) is Element or (type(child) is Text and child.data.strip()) for child in element.children)


def _sign(element: Element) -> str:
    """Return what an element without contents is known by: its name, and the first attribute that tells most."""
    told = next((f" {name}={value}" for name in _ADDRESSES if (value := element.attributes.get(name))), "")
    code = "".join(child.data for child in element.children if type(child) is Text) if element.name in CODE else ""
    name = element.name if element.namespace == HTML else f"{element.namespace}:{element.name}"
    return f"<{name}{told}{' ' if code else ''}{' '.join(code.split())}"
