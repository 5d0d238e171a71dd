"""A sheet that keeps up with the files it is made of, served to this machine only."""

from verse_tray.preview.live.board import Board
from verse_tray.preview.live.serve import serve

__all__ = ["Board", "serve"]
