"""How much of a limit is used: counting, what a cut leaves, and both in words."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from verse_tray.editors.profile import Limit

UNIT_NAMES = {
    "characters": "characters",
    "utf-16": "UTF-16 units",
    "bytes": "bytes of UTF-8",
    "levels": "elements inside one another",
    "frames": "frames",
    "pictures": "pictures",
}


class LimitUse(Struct, frozen=True):
    """How much of a limit a piece uses."""

    measure: str
    """``pasted`` or ``stored``."""
    of: str
    """``piece``, or ``attribute`` or ``inline-picture`` for the largest of them."""
    unit: str
    """``characters`` (code points), ``utf-16`` (code units), ``bytes`` (of UTF-8), ``levels``, ``frames`` or
    ``pictures``."""
    used: int
    """Size in that unit, with what the rest of the page uses."""
    most: int
    """Largest size that passes."""
    over: Literal["refuse", "cut", "drop", "warn"]
    """What happens above it."""

    @property
    def exceeded(self) -> bool:
        """Whether it is too much."""
        return self.used > self.most


def use_of(limit: Limit, used: int) -> LimitUse:
    """Return how much of a limit is used."""
    return LimitUse(limit.measure, limit.of, limit.unit, used + limit.already, limit.most, limit.over)


def size(text: str, unit: str) -> int:
    """Count a text in characters, UTF-16 units or bytes."""
    if unit == "characters" or (unit == "bytes" and text.isascii()):
        return len(text)
    if unit == "bytes":
        return len(text.encode("utf-8", "surrogatepass"))
    return len(text.encode("utf-16-le", "surrogatepass")) // 2


def cut(text: str, limit: Limit) -> str:
    """Return what is left of a text that was cut at a limit, wherever in a tag or a letter that falls.

    Half a letter becomes U+FFFD, as it does when the stored bytes are read again.
    """
    most = max(0, limit.most - limit.already)
    if limit.unit == "characters":
        return text[:most]
    if limit.unit == "bytes":
        return text.encode("utf-8", "surrogatepass")[:most].decode("utf-8", "replace")
    return text.encode("utf-16-le", "surrogatepass")[: 2 * most].decode("utf-16-le", "replace")


def told(use: LimitUse) -> str:
    """Return how much of a limit is used, in words."""
    what = {"attribute": " in one attribute", "inline-picture": " in one inline picture"}.get(use.of, "")
    return f"{use.used:,} {UNIT_NAMES[use.unit]}{what} {use.measure}"
