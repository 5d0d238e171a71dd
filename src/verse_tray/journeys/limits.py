"""Limits of size: counting, and what a cut leaves."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from verse_tray.editors.profile import Limit

UNIT_NAMES = {"characters": "characters", "utf-16": "UTF-16 units", "bytes": "bytes of UTF-8"}


class LimitUse(Struct, frozen=True):
    """How much of a limit a piece uses."""

    measure: str
    """``pasted`` or ``stored``."""
    unit: str
    """``characters`` (code points), ``utf-16`` (code units) or ``bytes`` (of UTF-8)."""
    used: int
    """Size of the piece in that unit."""
    most: int
    """Largest size that passes."""
    over: Literal["refuse", "cut", "warn"]
    """What happens above it."""

    @property
    def exceeded(self) -> bool:
        """Whether the piece is too large."""
        return self.used > self.most


class Weighed(Struct):
    """A text held against the limits of one stage."""

    text: str
    """What is left of it."""
    uses: list[LimitUse] = []
    """How much of each limit it uses."""
    over: list[tuple[LimitUse, int]] = []
    """The limits that it exceeds without being refused, and the length of the text that was left."""
    refused: LimitUse | None = None
    """The limit that refuses it."""


def weigh(text: str, limits: tuple[Limit, ...], measured: str) -> Weighed:
    """Hold a text against the limits on what is ``measured`` (``pasted`` or ``stored``), in their order."""
    weighed = Weighed(text)
    for limit in limits:
        if limit.measure != measured:
            continue
        use = measure(weighed.text, limit)
        weighed.uses.append(use)
        if not use.exceeded:
            continue
        if use.over == "refuse":
            weighed.refused = use
            break
        if use.over == "cut":
            weighed.text = cut(weighed.text, limit)
        weighed.over.append((use, len(weighed.text)))
    return weighed


def measure(text: str, limit: Limit) -> LimitUse:
    """Count a text in the unit of a limit."""
    return LimitUse(limit.measure, limit.unit, _count(text, limit.unit), limit.most, limit.over)


def _count(text: str, unit: str) -> int:
    if unit == "characters" or (unit == "bytes" and text.isascii()):
        return len(text)
    if unit == "bytes":
        return len(text.encode("utf-8", "surrogatepass"))
    return len(text.encode("utf-16-le", "surrogatepass")) // 2


def cut(text: str, limit: Limit) -> str:
    """Return what is left of a text that was cut at a limit, wherever in a tag or a letter that falls.

    Half a letter becomes U+FFFD, as it does when the stored bytes are read again.
    """
    if limit.unit == "characters":
        return text[: limit.most]
    if limit.unit == "bytes":
        return text.encode("utf-8", "surrogatepass")[: limit.most].decode("utf-8", "replace")
    return text.encode("utf-16-le", "surrogatepass")[: 2 * limit.most].decode("utf-16-le", "replace")
