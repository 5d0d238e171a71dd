"""The stages of a journey."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cached_property
from typing import Any

from verse_tray.markup.tree import Tree
from verse_tray.model.findings import Change
from verse_tray.piece.view import View

STAGES = ("written", "paste", "save", "reopen", "publish")
"""Names of the stages, in order."""


class Stage:
    """One stage of a journey. All but its name and its markup is worked out when somebody asks, once for all."""

    def __init__(
        self,
        name: str,
        markup: str,
        *,
        tree: Callable[[], Tree],
        view: Callable[[Tree], View],
        changes: Callable[[], Iterable[Change]] = tuple,
        edited: Callable[[], Iterable[Change]] = tuple,
        notices: Callable[[Stage], Iterable[Change]] = lambda _: (),
    ) -> None:
        self.name = name
        """One of :data:`STAGES`."""
        self.markup = markup
        """The markup as it stands after this stage."""
        self._tree = tree
        self._view = view
        self._changes = changes
        self._edited = edited
        self._notices = notices

    @cached_property
    def tree(self) -> Tree:
        """What browsers read in the markup; its nodes have the keys of the written tree. Not to be edited."""
        return self._tree()

    @cached_property
    def view(self) -> View:
        """That tree made ready for counting."""
        return self._view(self.tree)

    @cached_property
    def changes(self) -> tuple[Change, ...]:
        """What the editor changed in it, in the order in which it did."""
        told = tuple(self._changes())
        self._changes = self._edited = tuple  # trees that only this needed can go
        return told

    @property
    def edited(self) -> tuple[Change, ...]:
        """Those of its changes that its edits have made; what is only written otherwise, which is no loss, left out."""
        known = self.__dict__.get("changes")
        if known is None:
            return tuple(self._edited())
        return tuple(change for change in known if not change.rule.startswith("writing/"))

    @cached_property
    def notices(self) -> tuple[Change, ...]:
        """What the author should know of it although the markup is not changed by it."""
        told = tuple(self._notices(self))
        self._notices = lambda _: ()
        return told

    def __reduce__(self) -> tuple[Any, ...]:
        raise TypeError("a stage is pickled with its journey")
