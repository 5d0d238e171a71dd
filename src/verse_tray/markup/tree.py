"""The tree of a piece: nodes with a key, and with the place in the author's file that they came from."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from verse_tray.markup.names import HTML
from verse_tray.model.spans import Span

Fate = Literal["", "drop", "unwrap", "escape"]


class Node:
    """Something in a tree."""

    __slots__ = ("fate", "key", "parent", "span")

    def __init__(self, key: int = 0, span: Span | None = None) -> None:
        self.key = key
        """Identity that clones, edits and later stages keep; 0 for what an editor added."""
        self.span = span
        """Place of the start tag, the text or the comment in the author's file; None when there is none."""
        self.parent: Element | None = None
        self.fate: Fate = ""
        """What the running step decided; the tree carries it out when the step ends."""


class Text(Node):
    """A run of text."""

    __slots__ = ("data",)

    def __init__(self, data: str, key: int = 0, span: Span | None = None) -> None:
        self.key = key
        self.span = span
        self.parent = None
        self.fate = ""
        self.data = data
        """The text itself, references resolved."""


class Comment(Node):
    """A comment, a processing instruction or a doctype: markup that is no element and no text."""

    __slots__ = ("kind", "markup")

    def __init__(self, kind: str, markup: str, key: int = 0, span: Span | None = None) -> None:
        Node.__init__(self, key, span)
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
        span: Span | None = None,
    ) -> None:
        self.key = key
        self.span = span
        self.parent = None
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

    __slots__ = ("_dirty", "edits", "positions", "root")

    def __init__(self, root: Element, positions: Literal["exact", "partial", "none"] = "exact") -> None:
        self.root = root
        """Container of the tree; its name is empty."""
        self.positions = positions
        """Whether every node that stands in the source has its place."""
        self.edits = 0
        """Number of edits made so far."""
        self._dirty: dict[int, Element] = {}

    def nodes(self) -> Iterator[Node]:
        """Yield every node in tree order, the container left out."""
        stack = [iter(self.root.children)]
        while stack:
            for node in stack[-1]:
                yield node
                if type(node) is Element:
                    stack.append(iter(node.children))
                    break
            else:
                stack.pop()

    def elements(self) -> list[Element]:
        """Return every element in tree order."""
        found: list[Element] = []
        stack: list[Node] = self.root.children[::-1]
        while stack:
            node = stack.pop()
            if type(node) is Element:
                found.append(node)
                stack.extend(node.children[::-1])
        return found

    def clone(self) -> Tree:
        """Return a copy whose nodes have the same keys and places."""
        root = Element("")
        pairs = [(self.root, root)]
        while pairs:
            old, new = pairs.pop()
            children = new.children
            copy: Node
            for child in old.children:
                if type(child) is Element:
                    copy = Element(child.name, child.namespace, child.attributes.copy(), child.key, child.span)
                    if child.children:
                        pairs.append((child, copy))
                elif type(child) is Text:
                    copy = Text(child.data, child.key, child.span)
                else:
                    assert isinstance(child, Comment)
                    copy = Comment(child.kind, child.markup, child.key, child.span)
                copy.parent = new
                children.append(copy)
        return Tree(root, self.positions)

    def set_fate(self, node: Node, fate: Fate) -> None:
        """Decide what becomes of a node when :meth:`settle` is called."""
        assert node.parent is not None
        node.fate = fate
        self._dirty[id(node.parent)] = node.parent
        self.edits += 1

    def set_attribute(self, element: Element, name: str, value: str | None) -> None:
        """Set an attribute, or take it away with None."""
        if value is None:
            del element.attributes[name]
        else:
            element.attributes[name] = value
        element.edited = True
        self.edits += 1

    def set_text(self, text: Text, data: str) -> None:
        """Replace the data of a text."""
        text.data = data
        self.edits += 1

    def settle(self, tags_as_text: dict[int, tuple[Text, Text]]) -> None:
        """Carry out the fates: drop, unwrap, or escape (``tags_as_text`` has both tags as text by ``id``)."""
        for parent in self._dirty.values():
            if parent.fate:  # its own parent takes its children in
                continue
            children: list[Node] = []
            stack = parent.children[::-1]
            while stack:
                node = stack.pop()
                if not node.fate:
                    node.parent = parent
                    children.append(node)
                    continue
                if node.fate == "drop" or type(node) is not Element:
                    continue
                inner = node.children
                if node.fate == "escape":
                    start, end = tags_as_text[id(node)]
                    inner = [start, *inner, end] if end.data else [start, *inner]
                stack.extend(inner[::-1])
            parent.children = children
        self._dirty.clear()
