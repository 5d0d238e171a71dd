"""The tree of a piece: nodes with a key.

Nodes know neither their parent nor their place in the source: a tree then holds no reference cycles and goes away as
soon as nobody uses it, and places are worked out, by key, only where somebody asks (:mod:`verse_tray.markup.places`).
"""

from __future__ import annotations

from typing import Literal

from msgspec import Struct, field

from verse_tray.markup.names import HTML
from verse_tray.model.errors import ContractError

Fate = Literal["", "drop", "unwrap", "replace"]


class Text(Struct, eq=False, gc=False):
    """A run of text."""

    data: str
    """The text itself, references resolved."""
    key: int = 0
    """Identity that clones, edits and later stages keep; 0 for what an editor added."""
    means: str | None = None
    """What the author wrote, when this stands for it in other signs that say the same; None for the text itself."""
    fate: Fate = ""
    """What the running stage decided; the tree carries it out when it is settled."""
    number: int = 0
    """Its place in the order of the stored text that it was read from, counted from 1; 0 for any other."""


class Comment(Struct, eq=False, gc=False):
    """A comment, a processing instruction or a doctype: markup that is no element and no text."""

    kind: str
    """``comment``, ``instruction`` or ``doctype``."""
    markup: str
    """Its standard serialisation, delimiters and all."""
    key: int = 0
    """Identity that clones, edits and later stages keep; 0 for what an editor added."""
    fate: Fate = ""
    """What the running stage decided; the tree carries it out when it is settled."""
    number: int = 0
    """Its place in the order of the stored text that it was read from, counted from 1; 0 for any other."""


class Element(Struct, eq=False, gc=False):
    """An element. The container of a whole tree is one too, with an empty name."""

    name: str
    """Name as the standard adjusts it: lower case, in SVG with its capitals."""
    namespace: str = HTML
    """``html``, ``svg`` or ``mathml``."""
    attributes: dict[str, str] = field(default_factory=dict)
    """Names and values in the order of the source, references resolved. Edit through the tree only."""
    key: int = 0
    """Identity that clones, edits and later stages keep; 0 for what an editor added."""
    children: list[Node] = field(default_factory=list)
    """Children; those of a ``template`` are its contents."""
    edited: bool = False
    """Whether its name or an attribute was edited since the text was written."""
    fate: Fate = ""
    """What the running stage decided; the tree carries it out when it is settled."""
    number: int = 0
    """Its place in the order of the stored text that it was read from, counted from 1; 0 for any other."""


Node = Text | Comment | Element
"""Something in a tree."""


class Tree:
    """A fragment or a document, with the only ways to edit it."""

    __slots__ = ("_front", "_order", "_replacements", "merged", "root", "unsettled")

    def __init__(self, root: Element, order: list[Node] | None = None) -> None:
        self.root = root
        """Container of the tree; its name is empty."""
        self.unsettled = False
        """Whether fates were decided that :meth:`settle` has not carried out."""
        self.merged: dict[int, int] = {}
        """Keys of elements that became one with another, and the other's key."""
        self._order = order
        self._replacements: dict[int, list[Node]] = {}
        self._front: list[Element] = []

    def nodes(self) -> list[Node]:
        """Return every node in tree order, the container left out. The list is shared: treat it as read-only."""
        if self._order is not None:
            return self._order
        found: list[Node] = []
        add = found.append
        stack: list[Node] = self.root.children[::-1]
        while stack:
            node = stack.pop()
            add(node)
            if type(node) is Element and node.children:
                stack += node.children[::-1]
        self._order = found
        return found

    def elements(self) -> list[Element]:
        """Return every element in tree order."""
        return [node for node in self.nodes() if type(node) is Element]

    def clone(self) -> Tree:
        """Return a copy whose nodes have the same keys."""
        order = self.nodes()
        copies = [_copy(node) for node in order]
        root = Element("")
        places = iter(copies)
        stack: list[tuple[Element, int]] = [(root, len(self.root.children))]
        # tree order: each copy belongs to the innermost element that still lacks children
        for node in order:
            while not stack[-1][1]:
                stack.pop()
            parent, left = stack[-1]
            stack[-1] = (parent, left - 1)
            copy = next(places)
            parent.children.append(copy)
            if type(node) is Element and node.children:
                assert type(copy) is Element
                stack.append((copy, len(node.children)))
        clone = Tree(root, copies)
        clone.merged = self.merged.copy()
        return clone

    def set_fate(self, node: Node, fate: Fate, replacement: list[Node] | None = None) -> None:
        """Decide what becomes of a node when :meth:`settle` is called; what is in a node that goes, goes as well."""
        node.fate = fate
        if replacement is not None:
            self._replacements[id(node)] = replacement
        if fate != "unwrap" and type(node) is Element and node.children:
            kept = {id(each) for each in replacement or ()}
            stack = [child for child in node.children if id(child) not in kept]
            while stack:
                inner = stack.pop()
                inner.fate = inner.fate or "drop"
                if type(inner) is Element:
                    stack += inner.children
        self.unsettled = True

    def set_attribute(self, element: Element, name: str, value: str | None) -> None:
        """Set an attribute, or take it away with None."""
        if value is None:
            del element.attributes[name]
        else:
            element.attributes[name] = value
        element.edited = True

    def rename(self, element: Element, name: str) -> None:
        """Give an element another name."""
        element.name = name
        element.edited = True

    def move_to_front(self, element: Element) -> None:
        """Decide that an element goes to the front of the tree when :meth:`settle` is called."""
        self._front.append(element)
        self.set_fate(element, "drop")

    def set_children(self, parent: Element, children: list[Node]) -> None:
        """Give an element other children, at once."""
        parent.children = children
        self._order = None

    def settle(self) -> bool:
        """Carry out the fates that were decided.

        Returns:
            Whether there were any.
        """
        if not self.unsettled:
            return False
        self.unsettled = False
        self._order = None
        parents = [self.root]
        for parent in parents:
            for child in parent.children:
                if child.fate:
                    parent.children = self._settled(parent.children)
                    break
            for child in parent.children:
                if type(child) is Element and child.children:
                    parents.append(child)
        if self._front:
            for node in self._front:
                _revive(node)
            self.root.children = [*self._front, *self.root.children]
            self._front = []
        self._replacements = {}
        return True

    def _settled(self, children: list[Node]) -> list[Node]:
        kept: list[Node] = []
        stack = children[::-1]
        while stack:
            node = stack.pop()
            if not node.fate:
                kept.append(node)
            elif node.fate == "replace":
                replacement = self._replacements.pop(id(node), None)
                if replacement is None:  # met again inside what replaces it: that would never end
                    raise ContractError("a node stands inside what was put in its place")
                stack.extend(replacement[::-1])
            elif node.fate == "unwrap" and type(node) is Element:
                stack.extend(node.children[::-1])
        return kept


def are_equal(one: Node, other: Node) -> bool:
    """Tell whether two nodes are alike in every way, all that is in them included."""
    pairs = [(one, other)]
    while pairs:
        first, second = pairs.pop()
        if type(first) is Text and type(second) is Text:
            same = (first.data, first.key, first.means) == (second.data, second.key, second.means)
        elif type(first) is Comment and type(second) is Comment:
            same = (first.markup, first.key) == (second.markup, second.key)
        elif type(first) is Element and type(second) is Element:
            mine, theirs = first.children, second.children
            same = (first.name, first.namespace, first.key) == (second.name, second.namespace, second.key)
            same = same and first.attributes == second.attributes and len(mine) == len(theirs)
            pairs += zip(mine, theirs, strict=False)
        else:
            same = False
        if not same:
            return False
    return True


def own_text(element: Element) -> str:
    """Return the text that stands in an element itself, such as that of a style sheet or a script."""
    return "".join([child.data for child in element.children if type(child) is Text])


def whole_text(element: Element) -> str:
    """Return the text that stands in an element and in all that is in it."""
    found: list[str] = []
    stack: list[Node] = [element]
    while stack:
        node = stack.pop()
        if type(node) is Text:
            found.append(node.data)
        elif type(node) is Element:
            stack += reversed(node.children)
    return "".join(found)


def _copy(node: Node) -> Node:
    if type(node) is Element:
        return Element(node.name, node.namespace, node.attributes.copy(), node.key, [], node.edited, "", node.number)
    if type(node) is Text:
        return Text(node.data, node.key, node.means, "", node.number)
    assert type(node) is Comment
    return Comment(node.kind, node.markup, node.key, "", node.number)


def _revive(node: Node) -> None:
    """Take the fate of a node, and of all that went with it, back."""
    stack = [node]
    while stack:
        each = stack.pop()
        each.fate = ""
        if type(each) is Element:
            stack += each.children
