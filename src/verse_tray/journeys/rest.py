"""Whether opening a piece in the visual pane and saving it again comes to rest."""

from __future__ import annotations

from msgspec import Struct

from verse_tray.editors.load import Editor

MOST_SAVES = 10
"""Saves after which a piece that still changes counts as never coming to rest."""


class Rest(Struct, frozen=True):
    """How often a stored piece changes when it is opened and saved again."""

    comes: bool
    """Whether it comes to rest."""
    after: int
    """Saves after which nothing changes any more, or after which it first comes back to what it was before."""
    cycle: int = 0
    """Saves after which it is the same again, for one that goes round; 0 for one that rests or just goes on."""

    @property
    def told(self) -> str:
        """The same in a sentence."""
        if self.comes and not self.after:
            return "Opened and saved again, it stays as it is."
        if self.comes:
            times = "once" if self.after == 1 else f"{self.after} times"
            return f"Opened and saved again, it changes {times}; after that it stays as it is."
        if self.cycle:
            return (
                f"It never comes to rest: each time it is opened and saved it changes, and after {self.cycle} saves it "
                "is what it was before. What readers get depends on how often somebody has saved the page."
            )
        return f"It does not come to rest: opened and saved {self.after} times, it still changes each time."


def rest(stored: str, editor: Editor) -> Rest:
    """Open a stored piece and save it again until nothing changes, or until that is known never to happen."""
    from verse_tray.journeys.piece import Piece
    from verse_tray.journeys.way import Way
    from verse_tray.model.reading import Source

    way = Way(Piece(Source(stored)), editor, shared=False)
    seen = {stored: 0}
    for save in range(1, MOST_SAVES + 1):
        before = way.draft.text
        way.open_and_save()
        after = way.draft.text
        if after == before:
            return Rest(True, save - 1)
        if after in seen:
            return Rest(False, save, save - seen[after])
        seen[after] = save
    return Rest(False, MOST_SAVES)
