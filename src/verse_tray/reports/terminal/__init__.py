"""A piece as readers get it, in the terminal."""

from verse_tray.reports.terminal.piece_views import readings

__all__ = ["readings"]
