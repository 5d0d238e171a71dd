"""How wide texts are, measured in the font that comes with the picture library: a usual sans-serif one."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

PHONE = 343
"""Width in CSS pixels that a page of a phone leaves its contents: 375 less a margin of 16 on each side."""
SMALLEST = 12
"""Smallest size of text, in CSS pixels, that people read on a phone."""
USUAL = 16
"""Size of text where nobody says otherwise, in CSS pixels."""


@lru_cache
def _font() -> Any:
    from PIL import ImageFont

    return ImageFont.load_default(100)


@lru_cache(maxsize=4096)
def text_width(text: str, size: float = USUAL, *, bold: bool = False) -> float:
    """Return the width of a text in one line, in CSS pixels; bold text is a tenth wider."""
    return float(_font().getlength(text[:500])) * size / 100 * (1.1 if bold else 1)


def longest_word(text: str, *, bold: bool = False) -> float:
    """Return the width of the widest part of a text that has no place to break, at the usual size."""
    return max((text_width(word, bold=bold) for word in text.replace("\xa0", "_").split()), default=0.0)
