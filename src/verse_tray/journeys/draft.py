"""A piece between two stages: its text, and the tree that browsers read in it."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property

from verse_tray.journeys.piece import Piece
from verse_tray.journeys.rekey import parse_stored
from verse_tray.journeys.typed import Typed
from verse_tray.markup.serialise import References
from verse_tray.markup.tree import Node, Tree


class Draft:
    """A text; the tree is read from it when somebody asks and it is not known."""

    def __init__(
        self,
        text: str,
        tree: Tree | None,
        starts: Callable[[], dict[int, Node]],
        *,
        typed: Typed | None = None,
        references: References | None = None,
    ) -> None:
        self.text = text
        """The text."""
        self.references = references
        """How signs beyond ASCII are written when the text is the tree's own serialisation; None when it is not."""
        self._tree = tree
        self._typed = typed
        self._starts = starts

    @cached_property
    def starts(self) -> dict[int, Node]:
        """The node that begins at each offset of the text before anything was cut off it."""
        return self._starts()

    @property
    def tree(self) -> Tree:
        """What browsers read in the text; its nodes have the keys of the written tree."""
        if self._tree is None:
            self._tree, self._typed = parse_stored(self.text, self.starts)
        return self._tree

    def open(self) -> tuple[Tree, Typed | None]:
        """Return the tree to be edited, and the places of its nodes in the text.

        The places are None when the text is the tree's own serialisation: whoever writes it again needs none. The tree
        is then a copy, as the stage that wrote it may still be asked what writing changed.
        """
        if self.references is not None and self._tree is not None:
            return self._tree.clone(), None
        if self._typed is None:
            self._tree = None
        return self.tree, self._typed

    def cut(self, text: str) -> Draft:
        """Return the draft of a text that was cut off this one."""
        return Draft(text, None, lambda: self.starts)


def written(piece: Piece, *, shared: bool) -> Draft:
    """Return the draft that a journey begins with; others still need the tree of a ``shared`` piece."""
    tree = piece.parsed.tree.clone() if shared else piece.parsed.take_tree()
    return Draft(piece.source.text, tree, lambda: piece.typed.starts(piece.parsed.tree.nodes()), typed=piece.typed)
