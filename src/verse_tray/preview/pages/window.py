"""Where a page is looked at."""

from __future__ import annotations

from typing import NamedTuple

WIDE, NARROW = 1280, 375
"""Widths of the windows that pieces are looked at in if nobody says otherwise, in CSS pixels."""


class Window(NamedTuple):
    """A window with a page in it."""

    width: int
    """Width in CSS pixels."""
    theme: str
    """Name of the theme of the site."""
