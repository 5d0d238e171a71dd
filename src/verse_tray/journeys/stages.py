"""The stages of a journey."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cached_property

from verse_tray.model.findings import Change

STAGES = ("written", "paste", "save", "reopen", "publish")
"""Names of the stages, in order."""


class Stage:
    """One stage of a journey."""

    def __init__(
        self,
        name: str,
        markup: str,
        changes: Callable[[], Iterable[Change]] = tuple,
        notices: Callable[[], Iterable[Change]] = tuple,
    ) -> None:
        self.name = name
        """One of :data:`STAGES`."""
        self.markup = markup
        """The markup as it stands after this stage."""
        self._changes = changes
        self._notices = notices

    @cached_property
    def changes(self) -> tuple[Change, ...]:
        """What the editor changed in it, in the order in which it did."""
        told = tuple(self._changes())
        self._changes = tuple  # trees that only this needed can go
        return told

    @cached_property
    def notices(self) -> tuple[Change, ...]:
        """What the author should know of it although the markup is not changed by it."""
        told = tuple(self._notices())
        self._notices = tuple
        return told
