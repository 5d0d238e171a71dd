"""Limits on the size of the whole text."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.editors.profile import Limit
from verse_tray.journeys.limits.use import LimitUse, cut, size, use_of


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


def is_of_text(limit: Limit) -> bool:
    """Tell whether a limit counts the text of the whole piece, and not something in its tree."""
    return limit.of == "piece" and limit.unit in ("characters", "utf-16", "bytes")


def weigh(text: str, limits: tuple[Limit, ...], measured: str) -> Weighed:
    """Hold a text against the limits of its size that count what is ``measured`` (``pasted`` or ``stored``)."""
    weighed = Weighed(text)
    for limit in limits:
        if limit.measure != measured or not is_of_text(limit):
            continue
        use = use_of(limit, size(weighed.text, limit.unit))
        weighed.uses.append(use)
        if not use.exceeded:
            continue
        if use.over == "refuse":
            weighed.refused = use
            break
        if use.over in ("cut", "drop"):
            weighed.text = cut(weighed.text, limit)
        weighed.over.append((use, len(weighed.text)))
    return weighed
