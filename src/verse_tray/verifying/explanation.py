"""What would explain that something came out otherwise."""

from __future__ import annotations

from msgspec import Struct


class Explanation(Struct, frozen=True):
    """A change of a profile that explains what came out otherwise."""

    key: str
    """The key of the profile and what is changed of it, such as ``publish.removeElements + mark``."""
    explains: int
    """How many of the differences it explains."""
    of: int
    """How many there are."""
