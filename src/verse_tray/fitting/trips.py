"""Texts on their way through the strategies, each sent through the editor once."""

from __future__ import annotations

from typing import TYPE_CHECKING

from verse_tray.editors.load import Editor
from verse_tray.fitting.draft import Draft
from verse_tray.fitting.icons import Icons
from verse_tray.fitting.kept import Kept
from verse_tray.fitting.probe import Probe
from verse_tray.journeys.journey import journey
from verse_tray.markup.splice import Spliced
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.reading.read import DESKTOP

if TYPE_CHECKING:
    from verse_tray.fitting.table import Strategy


class Trips:
    """The drafts of one editor, and what the strategies make of them."""

    def __init__(self, source: Source, editor: Editor, width: int = DESKTOP, icons: Icons | None = None) -> None:
        self.source = source
        """The author's file, whose name and line ends all texts have."""
        self.editor = editor
        """The editor."""
        self.width = width
        """The window, in CSS pixels, whose look is kept where only one can be."""
        self.icons: Icons = icons or {}
        """Pictures that were drawn of drawings."""
        self.probe = Probe(editor)
        """Tells what else it keeps."""
        self._drafts: Kept[Draft] = Kept()
        self._made: dict[tuple[str, str], str] = {}

    def draft(self, text: str) -> Draft:
        """Return a text with its journey."""
        return self._drafts.of(text, self._draft)

    def _draft(self, text: str) -> Draft:
        source = self.source if text == self.source.text else self.source.edited(text)
        return Draft(journey(Piece(source), self.editor), self.probe, self.width, self.icons)

    def applied(self, text: str, strategy: Strategy) -> str:
        """Return a text as a strategy leaves it."""
        key = text, strategy.name
        if key not in self._made:
            splices = list(strategy.rewrite(self.draft(text)))
            self._made[key] = Spliced(text, splices).text if splices else text
        return self._made[key]
