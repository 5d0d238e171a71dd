"""A tree made ready for counting."""

from __future__ import annotations

from functools import cached_property

from verse_tray.markup.names import INVISIBLE
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.style.cascade import Cascade, cascade, looks_upward_only
from verse_tray.style.page_sheets import sheets_in
from verse_tray.style.selectors import as_seen_within
from verse_tray.style.sheets import Sheet


class View:
    """A tree, looked at once and counted from several sides."""

    def __init__(self, tree: Tree, within: tuple[str, ...] = (), before: View | None = None) -> None:
        """Look at ``tree``, which stands on its page inside elements that these selectors match.

        ``before`` is what it was made of, if that was looked at.
        """
        self.tree = tree
        """The tree."""
        self._within = within
        self._before = before
        self.elements: list[Element] = []
        """Its elements in tree order."""
        self.texts: list[tuple[Text, bool]] = []
        """Its texts in tree order, and whether readers see them."""
        self.by_key: dict[int, Element] = {}
        """Its elements by key; those that an editor added are missing."""
        hidden: Element | None = None  # the outermost element around the walk whose text readers do not see
        stack: list[Node | None] = [*reversed(tree.root.children)]
        while stack:
            node = stack.pop()
            if node is None:  # the end of the hidden element
                hidden = None
            elif type(node) is Text:
                self.texts.append((node, hidden is None))
            elif type(node) is Element:
                self.elements.append(node)
                if node.key:
                    self.by_key[node.key] = node
                if node.children:
                    if hidden is None and node.name in INVISIBLE:
                        hidden = node
                        stack.append(None)
                    stack.extend(node.children[::-1])

    @cached_property
    def visible_texts(self) -> dict[int, tuple[str, int]]:
        """The texts that readers see, by key, and how many characters of each are no white space."""
        return {text.key: (text.data, solid(text.data)) for text, visible in self.texts if visible}

    @cached_property
    def sheets(self) -> tuple[Sheet, ...]:
        """Its style sheets."""
        found = sheets_in(self.tree)
        for prefix in self._within:
            found = [as_seen_within(sheet, prefix) for sheet in found]
        return tuple(found)

    @cached_property
    def cascade(self) -> Cascade:
        """Its winning declarations."""
        before = self._before
        alike = before.cascade if before is not None and self._matches_as(before) else None
        return cascade(self.tree, self.elements, self.sheets, alike)

    @cached_property
    def parents(self) -> dict[int, int]:
        """The key of the element around each node, by the node's key; 0 for those that stand outside all others."""
        found: dict[int, int] = {}
        for parent in (self.tree.root, *self.elements):
            for child in parent.children:
                found[child.key] = parent.key
        return found

    def _matches_as(self, before: View) -> bool:
        """Tell whether the selectors are certain to match each element here as they did before."""
        if self.sheets != before.sheets or not all(map(looks_upward_only, self.sheets)):
            return False
        parents, old = self.parents, before.parents
        for element in self.elements:
            was = before.by_key.get(element.key)
            if was is None or was.name != element.name or parents.get(element.key, 0) != old.get(element.key, 0):
                return False
            mine, theirs = element.attributes, was.attributes
            if mine != theirs and (mine.get("class"), mine.get("id")) != (theirs.get("class"), theirs.get("id")):
                return False
        return True


def solid(data: str) -> int:
    """Return how many characters of a text are no white space."""
    return len("".join(data.split()))
