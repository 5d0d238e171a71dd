"""A piece inside the page of an editor's site, or inside the editor itself."""

from __future__ import annotations

import re
from html import escape
from typing import Literal, NamedTuple

from verse_tray.editors.load import PIECE_MARK, Editor
from verse_tray.editors.page import themed_frame
from verse_tray.journeys.highlights import numbered
from verse_tray.journeys.journey import Journey
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Tree
from verse_tray.model.patterns import lazy
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.offline import make_offline, offline_frame
from verse_tray.preview.pages.pointing import touched
from verse_tray.preview.templates import render
from verse_tray.style.media_queries import PHONE

Side = Literal["written", "editor", "published", "fitted", "placed"]
SIDES: tuple[Side, ...] = ("written", "editor", "published")
"""What a view shows: the piece as the author wrote it, as the editor shows it, as readers get it.

As readers get it once it was fitted, or placed on a site, are sides of their own, for who asks for them."""

NUMBER = "data-tray"
"""Attribute of a page's elements: their number, see :func:`verse_tray.journeys.highlights.numbered`; 0 is the piece."""

POLICY = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:"
"""Content-Security-Policy of every still page: it may show what it holds, and load nothing."""

_HEAD = (
    f'<meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="{POLICY}">'
    '<meta http-equiv="x-dns-prefetch-control" content="off"><base target="_blank">'
    "<style>noscript { display: none }</style>"  # readers' browsers run scripts, this page does not
)


_BEFORE_HEAD = lazy(r"(?:\s*<!doctype[^>]*>)?(?:\s*<html[^>]*>)?(?:\s*<head[^>]*>)?", re.I)


class Page(NamedTuple):
    """A page, its frame and the piece kept apart: many pages share one of them."""

    frame: str
    """The page around the piece, with :data:`verse_tray.editors.load.PIECE_MARK` in its place."""
    piece: str
    """The piece's markup."""
    boxed: bool = False
    """Whether the place lies within an attribute: the piece has a frame of its own."""

    @property
    def html(self) -> str:
        """The page as a document."""
        return self.frame.replace(PIECE_MARK, escape(self.piece) if self.boxed else self.piece)

    def in_window(self, width: int) -> Page:
        """Return the page as it is in a window of a width in CSS pixels, whatever the browser that shows it has."""
        return self if width > PHONE else Page(touched(self.frame), touched(self.piece), self.boxed)


def page(editor: Editor, theme: str, piece: Tree, pictures: LocalPictures) -> Page:
    """Return a page that shows a piece to readers and loads nothing.

    Args:
        editor: The editor, with its page frame.
        theme: The theme's CSS.
        piece: The piece's tree; it is not changed.
        pictures: Where the piece's own pictures are.
    """
    box = editor.profile.box
    place = f'<div class="verse-tray-piece" {NUMBER}="0">{PIECE_MARK}</div>'
    if box is not None:
        body = escape(f'<!DOCTYPE html><html><head>{_HEAD}</head><body {NUMBER}="0">')
        place = (
            f'<iframe sandbox="allow-same-origin" width="{box.width}" height="{box.height}" style="border: 0" '
            f'srcdoc="{body}{PIECE_MARK}"></iframe>'  # no scripts: so the sheet can look in, and it can do nothing
        )
    return Page(
        _with_head(offline_frame(themed_frame(editor, theme))).replace(PIECE_MARK, place),
        _shown(piece, pictures),
        box is not None,
    )


def editor_page(journey: Journey, pictures: LocalPictures) -> Page:
    """Return the editor's own view of what it has stored: on a plain ground, without the site's theme."""
    editor, view = journey.editor, journey.editor.profile.view
    frame = _with_head(render("pages/surface.html", title=editor.profile.title))
    if view.shows == "notice":
        notice = escape(view.notice or "Your code is shown on the page only")
        return Page(frame, f'<div class="tray-notice">{notice}</div>')
    stored = journey.stages[-2]
    tree = stored.tree
    if view.shows == "stand-ins":
        from verse_tray.preview.pages.grey_boxes import put_boxes

        tree = tree.clone()
        put_boxes(tree)
    return Page(frame, _shown(tree, pictures, numbers=False))


def journey_page(journey: Journey, side: Side, theme: str, pictures: LocalPictures) -> Page:
    """Return the page of one side of a journey; ``theme`` is CSS. A fitted or placed piece has its own."""
    if side == "editor":
        return editor_page(journey, pictures)
    return page(journey.editor, theme, journey.piece.parsed.tree if side == "written" else journey.published, pictures)


def _with_head(frame: str) -> str:
    found = _BEFORE_HEAD.match(frame)
    at = found.end() if found else 0
    return f"{frame[:at]}{_HEAD}{frame[at:]}"


def _shown(piece: Tree, pictures: LocalPictures, *, numbers: bool = True) -> str:
    tree = piece.clone()
    make_offline(tree, pictures)
    if numbers:
        write_numbers(tree)
    return serialise(tree).markup


def write_numbers(tree: Tree) -> None:
    """Write its number on every element of a tree, which is edited in place."""
    for element, number in numbered(tree):
        element.attributes[NUMBER] = str(number)
