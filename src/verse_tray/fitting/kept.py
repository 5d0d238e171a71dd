"""What was worked out of texts, the oldest forgotten when there is much of it."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from typing import Generic, TypeVar

T = TypeVar("T")

_MOST = 2_000_000  # characters of all texts together
_LEAST = 3  # texts that are kept whatever their size


class Kept(Generic[T]):
    """What a function makes of texts: each is made once, as long as it is kept."""

    def __init__(self, make: Callable[[str], T]) -> None:
        self._make = make
        self._found: OrderedDict[str, T] = OrderedDict()

    def __call__(self, text: str) -> T:
        """Return what is made of a text."""
        if text in self._found:
            self._found.move_to_end(text)
            return self._found[text]
        found = self._found[text] = self._make(text)
        while len(self._found) > _LEAST and len(self._found) * (len(text) + 1) > _MOST:
            self._found.popitem(last=False)
        return found
