"""What was worked out of texts, the oldest forgotten when there is much of it."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from typing import Generic, TypeVar

T = TypeVar("T")

_MOST = 2_000_000  # characters of all texts together
_LEAST = 3  # texts that are kept whatever their size


class Kept(Generic[T]):
    """What is made of texts: each is made once, as long as it is kept.

    It does not hold what makes them: that mostly belongs to its own holder, and the two would hold one another.
    """

    def __init__(self) -> None:
        self._found: OrderedDict[str, T] = OrderedDict()

    def of(self, text: str, make: Callable[[str], T]) -> T:
        """Return what is made of a text."""
        if text in self._found:
            self._found.move_to_end(text)
            return self._found[text]
        found = self._found[text] = make(text)
        while len(self._found) > _LEAST and len(self._found) * (len(text) + 1) > _MOST:
            self._found.popitem(last=False)
        return found
