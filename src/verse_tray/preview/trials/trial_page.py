"""The page on which a piece is tried out, and the way back from a place in it to the author's file."""

from __future__ import annotations

import re
from bisect import bisect_right
from html import escape

from verse_tray.editors.load import PIECE_MARK
from verse_tray.editors.page import themed_frame
from verse_tray.journeys.journey import Journey
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Text
from verse_tray.model.patterns import lazy
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.offline import make_offline
from verse_tray.preview.pages.page import NUMBER, write_numbers

_NET = (
    "default-src 'none'; script-src 'unsafe-inline' 'unsafe-eval'; style-src 'unsafe-inline'; img-src * data: blob:; "
    "font-src data:; media-src data: blob:; worker-src 'none'"
)
OPEN_PAGE = f"sandbox allow-scripts allow-forms allow-modals allow-same-origin; {_NET}"
"""Content-Security-Policy of the page: what a page of a site may do, but for other windows and fetching."""
_NEVER = frozenset(
    ("allow-same-origin", "allow-top-navigation", "allow-top-navigation-by-user-activation",
     "allow-top-navigation-to-custom-protocols", "allow-downloads", "allow-popups", "allow-popups-to-escape-sandbox")
)  # fmt: skip
"""Sandbox tokens that no box is given here: with them a script could reach beyond it."""
_HEAD = (
    '<meta charset="utf-8"><meta http-equiv="x-dns-prefetch-control" content="off">'
    "<style>noscript { display: none }</style>"  # the page is looked at without its scripts as well
)
_PLACE = lazy(r"(?:about:srcdoc|http://tray\.invalid/):(\d+):(\d+)")


class ActingPage:
    """A page with the published piece, its scripts alive."""

    def __init__(self, journey: Journey, theme: str, pictures: LocalPictures, *, loads: bool = False) -> None:
        self._journey = journey
        self.policy = OPEN_PAGE
        """Content-Security-Policy under which it is shown; one that ``loads`` may have scripts and styles from outside,
        which are answered by nothing but the author's own copies."""
        if loads:
            for kind in ("script-src", "style-src"):
                self.policy = self.policy.replace(kind, f"{kind} http: https:")
        tree = journey.published.clone()
        make_offline(tree, pictures, acting=True)
        write_numbers(tree)
        box = journey.editor.profile.box
        for element in tree.elements():
            if box is not None and element.attributes.get("href", "").startswith("#"):
                # places in such a frame are those of the page around it, unless they say otherwise
                element.attributes["href"] = f"about:srcdoc{element.attributes['href']}"
        written = serialise(tree)
        self._starts = written.starts()
        self._offsets = sorted(self._starts)
        piece = written.markup
        frame = themed_frame(journey.editor, theme)
        place = f'<div class="verse-tray-piece" {NUMBER}="0">{PIECE_MARK}</div>'
        if box is not None:
            tokens = " ".join(token for token in box.sandbox if token not in _NEVER)
            before = f'<!DOCTYPE html><html><head>{_HEAD}</head><body {NUMBER}="0">'
            self._document, self._from = before + piece, len(before)
            inner = escape(self._document)
            place = (
                f'<iframe sandbox="{tokens}" width="{box.width}" height="{box.height}" style="border: 0" '
                f'srcdoc="{inner}"></iframe>'
            )
            self.html = frame.replace(PIECE_MARK, place)
        else:
            around = frame.replace(PIECE_MARK, place)
            self._from = around.index(PIECE_MARK)
            self.html = self._document = around.replace(PIECE_MARK, piece)
        self._lines = [0, *(match.end() for match in re.finditer("\r\n|\r|\n", self._document))]

    def place(self, told: str) -> tuple[int | None, int | None]:
        """Return line and column in the author's file of the first place that a browser's words name."""
        for line, column in _PLACE.findall(told):
            found = self._place(int(line), int(column))
            if found != (None, None):
                return found
        return None, None

    def _place(self, line: int, column: int) -> tuple[int | None, int | None]:
        if line > len(self._lines):
            return None, None
        offset = self._lines[line - 1] + column - 1 - self._from
        at = bisect_right(self._offsets, offset) - 1
        if offset < 0 or at < 0:
            return None, None
        node, source = self._starts[self._offsets[at]], self._journey.piece.source
        span = self._journey.piece.parsed.places.span(node.key) if node.key else None
        if span is None:
            return None, None
        if type(node) is Text and source.slice(span) == node.data:
            return source.place(min(span.start + offset - self._offsets[at], span.end))
        return source.place(span.start)
