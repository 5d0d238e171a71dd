"""The page around what an editor publishes, with a theme in it."""

from __future__ import annotations

import re

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.model.patterns import lazy

THEME_MARK = "<!-- theme -->"
"""Where the theme goes in a page frame."""
_STYLE_END = lazy(r"</(?=style)", re.IGNORECASE)


def themed_frame(editor: Editor, theme: str) -> str:
    """Return the page around the piece, with a theme's CSS in it, which cannot end its style element."""
    frame = editor.frame
    style = "<style>{}</style>".format(_STYLE_END.sub(r"<\\/", theme))
    return frame.replace(THEME_MARK, style) if THEME_MARK in frame else frame.replace(PIECE_MARK, style + PIECE_MARK)
