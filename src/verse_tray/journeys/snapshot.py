"""A piece between two stages: its text, and the tree that browsers read in it."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property

from verse_tray.markup.serialise import Form
from verse_tray.markup.tree import Node, Tree
from verse_tray.piece.identity import parse_stored
from verse_tray.piece.piece import Piece
from verse_tray.piece.source_map import SourceMap


class Snapshot:
    """A text; the tree is read from it when somebody asks and it is not known."""

    def __init__(
        self,
        text: str,
        tree: Tree | None,
        starts: Callable[[], dict[int, Node]],
        *,
        source_map: SourceMap | None = None,
        form: Form | None = None,
        lent: bool = False,
        reads_back: Callable[[], bool] | None = None,
    ) -> None:
        """Keep ``text``, and the ``tree`` if it is known.

        ``reads_back`` tells whether browsers read the text as that tree; it is asked when the tree is. None: they do.
        """
        self.text = text
        """The text."""
        self._form = form
        self._reads_back = reads_back
        self._tree = tree
        self._source_map = source_map
        self._starts = starts
        self._lent = lent
        self._handed_over = False
        self._as_written = True

    @cached_property
    def starts(self) -> dict[int, Node]:
        """The node that begins at each offset of the text before anything was cut off it."""
        found = self._starts()
        self._starts = lambda: found  # what it was worked out from is needed no more
        return found

    @property
    def is_read_as_written(self) -> bool:
        """Whether browsers read the text as the tree that it was written from."""
        self._find_out()
        return self._as_written

    @property
    def form(self) -> Form | None:
        """How it is written when the text is the tree's own serialisation; None when it is not."""
        self._find_out()
        return self._form

    def _find_out(self) -> None:
        if self._reads_back is not None:
            if not self._reads_back():
                self._tree = self._form = None
                self._as_written = False
            self._reads_back = None

    @property
    def tree(self) -> Tree:
        """What browsers read in the text; its nodes have the keys of the written tree. Not to be edited."""
        self._find_out()
        if self._tree is None:
            self._tree, self._source_map = parse_stored(self.text, self.starts, renamed=self._handed_over)
            self._lent = self._handed_over = False
        return self._tree

    def open(self) -> tuple[Tree, SourceMap | None]:
        """Return the tree to be edited, and the places of its nodes in the text.

        The places are None when the text is the tree's own serialisation: whoever writes it again needs none. The tree
        is a copy when somebody else still needs it: another journey of the piece, or the stage that wrote it, which may
        yet be asked what writing changed. Otherwise it is handed over, and read anew should somebody ask for it again.
        """
        if self.form is None and self._source_map is None:
            self._tree = None
        tree = self.tree
        if self._lent:
            return tree.clone(), self._source_map
        source_map = self._source_map
        self._tree, self._handed_over = None, True
        return tree, source_map

    def take_back(self, tree: Tree) -> None:
        """Take back a tree that was handed over and that nobody has edited."""
        if self._handed_over:
            self._tree, self._handed_over = tree, False

    def fork(self) -> Snapshot:
        """Return a snapshot of the same text that can go another way."""
        if self.form is None or self._tree is None:
            return Snapshot(self.text, None, lambda: self.starts)
        return Snapshot(self.text, self._tree.clone(), lambda: self.starts, form=self.form)

    def cut(self, text: str) -> Snapshot:
        """Return the snapshot of a text that was cut off this one."""
        return Snapshot(text, None, lambda: self.starts)


def written(piece: Piece, *, shared: bool) -> Snapshot:
    """Return the snapshot that a journey begins with; others still need the tree of a ``shared`` piece."""
    tree = piece.parsed.tree if shared else piece.parsed.take_tree()
    starts = piece.source_map.starts
    source_map = piece.source_map
    return Snapshot(
        piece.source.text, tree, lambda: starts(piece.parsed.tree.nodes()), source_map=source_map, lent=shared
    )
