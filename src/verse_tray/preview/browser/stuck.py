"""Ways in which a page keeps its browser from going on."""

from __future__ import annotations

from verse_tray.model.errors import BrowserError


class StuckError(BrowserError):
    """A page that does not come to rest."""


class CrashedError(StuckError):
    """A page that broke down, as a rule for want of memory."""


class OverdueError(StuckError):
    """A session whose time is up."""
