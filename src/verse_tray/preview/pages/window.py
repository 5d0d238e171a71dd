"""Where a page is looked at."""

from __future__ import annotations

from typing import NamedTuple


class Window(NamedTuple):
    """A window with a page in it."""

    width: int
    """Width in CSS pixels."""
    theme: str
    """Name of the theme of the site."""
