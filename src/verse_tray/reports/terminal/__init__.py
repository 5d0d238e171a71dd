"""A piece as readers get it, in the terminal."""

from verse_tray.reports.terminal.piece_views import piece_views

__all__ = ["piece_views"]
