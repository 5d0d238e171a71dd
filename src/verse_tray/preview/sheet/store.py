"""What a sheet's script builds the views from: every page once, its frame and its piece kept apart."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import msgspec

from verse_tray.journeys.highlights import Highlight
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Page


class Store:
    """The data block of a sheet."""

    def __init__(self, pictures: LocalPictures) -> None:
        self._pictures = pictures
        self._lists: dict[str, dict[bytes, int]] = {
            name: {} for name in ("frames", "pieces", "pages", "marks", "heats")
        }
        self.more: dict[str, Any] = {}
        """What else the script needs, by name."""

    def page(self, page: Page) -> int:
        """Store a page and return its number."""
        frame, piece = self._number("frames", page.frame), self._number("pieces", page.piece)
        return self._number("pages", (frame, piece, page.boxed))

    def marks(self, marks: tuple[Highlight, ...]) -> int:
        """Store the marks of a view and return their number."""
        return self._number("marks", tuple((mark.key, mark.run, mark.kind, " ".join(mark.said)) for mark in marks))

    def heat(self, likeness: dict[int, float]) -> int:
        """Store how alike the elements of a view look, from 0 to 1 by number, and return the number of it all."""
        return self._number("heats", tuple((key, round(score, 3)) for key, score in sorted(likeness.items())))

    def _number(self, name: str, value: object) -> int:
        known = self._lists[name]
        return known.setdefault(_safe(value), len(known))  # written at once: nothing is held twice

    def json(self) -> Iterator[bytes]:
        """Yield, part by part, everything as JSON that can stand inside a script element."""
        before = b"{"
        for name, known in self._lists.items():
            yield before + _safe(name) + b":["
            for value, number in known.items():
                yield b"," if number else b""
                yield value
            before = b"],"
        yield b"]"
        for name, value in {"pictures": self._pictures.store, **self.more}.items():
            yield b"," + _safe(name) + b":" + _safe(value)
        yield b"}"


def _safe(value: object) -> bytes:
    return msgspec.json.encode(value).replace(b"<", b"\\u003c")
