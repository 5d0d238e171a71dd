"""A piece as written: read once, looked at by every editor's journey."""

from __future__ import annotations

from functools import cached_property

from verse_tray.markup.parse import Parsed, parse_fragment
from verse_tray.model.decoding import Source
from verse_tray.piece.source_map import OwnSourceMap, SourceMap
from verse_tray.piece.view import View


class Piece:
    """What the author wrote."""

    def __init__(self, source: Source) -> None:
        self.source = source
        """Its text."""

    def rest(self) -> None:
        """Let go what was worked out of it; who asks for it has it worked out anew."""
        source = self.source
        self.__dict__.clear()
        self.source = source

    def __getstate__(self) -> dict[str, Source]:
        """Return what it is made of: the rest is worked out anew."""
        return {"source": self.source}

    @cached_property
    def parsed(self) -> Parsed:
        """Its tree, as a browser builds it where a piece is put into a page. Never edited: journeys clone it."""
        return parse_fragment(self.source.text)

    @cached_property
    def source_map(self) -> SourceMap:
        """Its text with the places of the nodes; those of every journey have its keys."""
        return OwnSourceMap(self.parsed)

    @cached_property
    def written_view(self) -> View:
        """Its tree made ready for counting what survives."""
        return View(self.parsed.tree)
