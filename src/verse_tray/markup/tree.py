"""The tree of a piece: nodes with a key.

Nodes know neither their parent nor their place in the source: a tree then holds no reference cycles and goes away as
soon as nobody uses it, and places are worked out, by key, only where somebody asks (:mod:`verse_tray.markup.places`).
"""

from __future__ import annotations

from typing import Literal

from verse_tray.markup.names import HTML

Fate = Literal["", "drop", "unwrap", "escape"]


class Node:
    """Something in a tree."""

    __slots__ = ("fate", "key")

    def __init__(self, key: int = 0) -> None:
        self.key = key
        """Identity that clones, edits and later stages keep; 0 for what an editor added."""
        self.fate: Fate = ""
        """What the running step decided; the tree carries it out when the step ends."""


class Text(Node):
    """A run of text."""

    __slots__ = ("data",)

    def __init__(self, data: str, key: int = 0) -> None:
        self.key = key
        self.fate = ""
        self.data = data
        """The text itself, references resolved."""


class Comment(Node):
    """A comment, a processing instruction or a doctype: markup that is no element and no text."""

    __slots__ = ("kind", "markup")

    def __init__(self, kind: str, markup: str, key: int = 0) -> None:
        self.key = key
        self.fate = ""
        self.kind = kind
        """``comment``, ``instruction`` or ``doctype``."""
        self.markup = markup
        """Its standard serialisation, delimiters and all."""


class Element(Node):
    """An element. The container of a whole tree is one too, with an empty name."""

    __slots__ = ("attributes", "children", "edited", "name", "namespace")

    def __init__(
        self,
        name: str,
        namespace: str = HTML,
        attributes: dict[str, str] | None = None,
        key: int = 0,
    ) -> None:
        self.key = key
        self.fate = ""
        self.name = name
        """Name as the standard adjusts it: lower case, in SVG with its capitals."""
        self.namespace = namespace
        """``html``, ``svg`` or ``mathml``."""
        self.attributes: dict[str, str] = {} if attributes is None else attributes
        """Names and values in the order of the source, references resolved. Edit through the tree only."""
        self.children: list[Node] = []
        """Children; those of a ``template`` are its contents."""
        self.edited = False
        """Whether an attribute was edited since the text was written."""


class Tree:
    """A fragment or a document, with the only ways to edit it.

    Every edit counts in ``edits``, so that an engine can hold it against what was reported.
    """

    __slots__ = ("_decided", "edits", "root")

    def __init__(self, root: Element) -> None:
        self.root = root
        """Container of the tree; its name is empty."""
        self.edits = 0
        """Number of edits made so far."""
        self._decided = False

    def nodes(self) -> list[Node]:
        """Return every node in tree order, the container left out."""
        found: list[Node] = []
        add = found.append
        stack: list[Node] = self.root.children[::-1]
        while stack:
            node = stack.pop()
            add(node)
            if type(node) is Element and node.children:
                stack += node.children[::-1]
        return found

    def elements(self) -> list[Element]:
        """Return every element in tree order."""
        return [node for node in self.nodes() if type(node) is Element]

    def clone(self) -> Tree:
        """Return a copy whose nodes have the same keys."""
        root = Element("")
        pairs = [(self.root, root)]
        while pairs:
            old, new = pairs.pop()
            add = new.children.append
            for child in old.children:
                if type(child) is Element:
                    attributes = child.attributes.copy() if child.attributes else {}
                    copy = Element(child.name, child.namespace, attributes, child.key)
                    if child.children:
                        pairs.append((child, copy))
                    add(copy)
                elif type(child) is Text:
                    add(Text(child.data, child.key))
                else:
                    assert isinstance(child, Comment)
                    add(Comment(child.kind, child.markup, child.key))
        return Tree(root)

    def set_fate(self, node: Node, fate: Fate) -> None:
        """Decide what becomes of a node when :meth:`settle` is called."""
        node.fate = fate
        self._decided = True
        self.edits += 1

    def set_attribute(self, element: Element, name: str, value: str | None) -> None:
        """Set an attribute, or take it away with None."""
        if value is None:
            del element.attributes[name]
        else:
            element.attributes[name] = value
        element.edited = True
        self.edits += 1

    def settle(self, tags_as_text: dict[int, tuple[Text, Text]]) -> bool:
        """Carry out the fates: drop, unwrap, or escape (``tags_as_text`` has both tags as text by ``id``).

        Returns:
            Whether any node had one.
        """
        if not self._decided:
            return False
        self._decided = False
        parents = [self.root]
        while parents:
            parent = parents.pop()
            for child in parent.children:
                if child.fate:
                    parent.children = _settled(parent.children, tags_as_text)
                    break
            parents += [child for child in parent.children if type(child) is Element and child.children]
        return True


def _settled(children: list[Node], tags_as_text: dict[int, tuple[Text, Text]]) -> list[Node]:
    kept: list[Node] = []
    stack = children[::-1]
    while stack:
        node = stack.pop()
        if not node.fate:
            kept.append(node)
        elif node.fate != "drop" and type(node) is Element:
            inner = node.children
            if node.fate == "escape":
                start, end = tags_as_text[id(node)]
                inner = [start, *inner, end] if end.data else [start, *inner]
            stack.extend(inner[::-1])
    return kept
