"""A piece inside the page of an editor's site."""

from __future__ import annotations

from html import escape
from pathlib import Path

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Tree
from verse_tray.preview.placeholders import fill_placeholders

THEME_MARK = "<!-- theme -->"
"""Where the theme goes in a page frame."""

POLICY = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:"
"""Content-Security-Policy of every page: it may show what it holds, and load nothing."""

_HEAD = f'<meta http-equiv="Content-Security-Policy" content="{POLICY}"><base target="_blank">'


def page(editor: Editor, piece: Tree, pictures: tuple[Path, ...] = ()) -> str:
    """Return a whole page that shows a piece and loads nothing.

    Args:
        editor: The editor, with its page frame and theme.
        piece: The piece's tree; it is not changed.
        pictures: Folders in which the piece's pictures are looked for.
    """
    shown = piece.clone()
    fill_placeholders(shown, pictures)
    theme = f"<style>{editor.theme}</style>"
    frame = editor.frame
    frame = frame.replace(THEME_MARK, theme) if THEME_MARK in frame else frame.replace(PIECE_MARK, theme + PIECE_MARK)
    at = frame.lower().find("<head>")
    frame = f"{frame[: at + 6]}{_HEAD}{frame[at + 6 :]}" if at >= 0 else f"{_HEAD}{frame}"
    return frame.replace(PIECE_MARK, _boxed(editor, serialise(shown).markup))


def _boxed(editor: Editor, markup: str) -> str:
    """Return a piece as the page holds it: in itself, or in a frame of its own."""
    box = editor.profile.box
    if box is None:
        return f'<div class="verse-tray-piece">{markup}</div>'
    inner = escape(f"<!DOCTYPE html><html><head>{_HEAD}</head><body>{markup}</body></html>", quote=True)
    return f'<iframe sandbox width="{box.width}" height="{box.height}" style="border: 0" srcdoc="{inner}"></iframe>'
