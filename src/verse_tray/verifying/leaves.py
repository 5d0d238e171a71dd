"""A tree as the sequence of what stands in it: words, pictures, scripts, empty elements, and what is around each."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Node, Text, own_text
from verse_tray.model.patterns import lazy

_WORD = lazy(r"\w+|[^\w\s]")
CODE = frozenset(("script", "style"))
"""Elements whose text is code."""
_ADDRESSES = ("src", "href", "data", "value", "content", "name", "id", "class")


class Leaves:
    """The leaves of a tree, in order, and its elements with the elements around them.

    A leaf is a word or a sign of a text, or an element that has nothing in it. What is known of it stands at its number
    in several lists: pages have a hundred thousand.
    """

    def __init__(self, nodes: Sequence[Node]) -> None:
        """Walk nodes that stand beside one another, and all that is in them."""
        self.nodes = nodes
        """The nodes."""
        self.elements: list[Element] = []
        """Elements in tree order."""
        self.around: list[int] = []
        """Index of the element around each element; -1 for none."""
        self.place: list[int] = []
        """Which child of the element around it each element is, 0-based."""
        self.first: list[int] = []
        """Index of the first leaf in or behind the start of each element."""
        self.last: list[int] = []
        """Index of the first leaf behind each element."""
        self.tokens: list[str] = []
        """What each leaf is: a word, a sign, or the start of a tag with what tells it from others."""
        self.owners: list[Node] = []
        """The text that each leaf is in, or the element that it is."""
        self.parents: list[int] = []
        """Index of the element around each leaf; -1 for none."""
        self.children: list[int] = []
        """Which child of that element each leaf is in, 0-based."""
        stack: list[tuple[Node | int, int, int]] = []
        stack += [(node, -1, at) for at, node in enumerate(nodes)][::-1]
        while stack:
            node, parent, at = stack.pop()
            if isinstance(node, int):
                self.last[node] = len(self.tokens)
            elif type(node) is Text:
                if not node.data.isspace():
                    self._add(_WORD.findall(node.data), node, parent, at)
            elif type(node) is Element:
                own = len(self.elements)
                self.elements.append(node)
                self.around.append(parent)
                self.place.append(at)
                self.first.append(len(self.tokens))
                self.last.append(len(self.tokens))
                if node.name in CODE or not _has_leaves(node):
                    self._add([_sign(node)], node, parent, at)
                    self.last[own] = len(self.tokens)
                else:
                    stack.append((own, 0, 0))
                    stack += [(child, own, place) for place, child in enumerate(node.children)][::-1]

    def _add(self, tokens: list[str], node: Node, parent: int, at: int) -> None:
        count = len(tokens)
        self.tokens += tokens
        self.owners += [node] * count
        self.parents += [parent] * count
        self.children += [at] * count

    def __len__(self) -> int:
        return len(self.tokens)

    def is_word(self, leaf: int) -> bool:
        """Tell whether a leaf is a word or a sign."""
        return type(self.owners[leaf]) is Text

    def chain(self, leaf: int) -> list[int]:
        """Return the elements around a leaf, the outermost first; an element that is a leaf is not among them."""
        found: list[int] = []
        at = self.parents[leaf]
        while at >= 0:
            found.append(at)
            at = self.around[at]
        return found[::-1]

    def text(self, leaves: Iterable[int]) -> str:
        """Return the text of leaves that follow one another; of one that is an element, its tag."""
        said: list[str] = []
        for leaf in leaves:
            owner = self.owners[leaf]
            if type(owner) is Text:
                start = self.start(leaf)
                said += [" " if said and start and owner.data[start - 1].isspace() else "", self.tokens[leaf]]
            else:
                said += [" " if said else "", self.tokens[leaf].split()[0], ">"]
        return "".join(said)

    def start(self, leaf: int) -> int:
        """Return where a word begins in the data of its text."""
        owner = self.owners[leaf]
        first = leaf
        while first and self.owners[first - 1] is owner:
            first -= 1
        words = _WORD.finditer(owner.data) if type(owner) is Text else iter(())
        return next((word.start() for number, word in enumerate(words, first) if number == leaf), 0)


def _has_leaves(element: Element) -> bool:
    return any(type(child) is Element or (type(child) is Text and child.data.strip()) for child in element.children)


def _sign(element: Element) -> str:
    """Return what an element without contents is known by: its name, and the first attribute that tells most."""
    told = next((f" {name}={value}" for name in _ADDRESSES if (value := element.attributes.get(name))), "")
    code = own_text(element) if element.name in CODE else ""
    name = element.name if element.namespace == HTML else f"{element.namespace}:{element.name}"
    return f"<{name}{told}{' ' if code else ''}{' '.join(code.split())}"
