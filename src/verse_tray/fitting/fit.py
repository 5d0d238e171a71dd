"""A piece fitted to an editor, or to several at once: rewritten, shortened where it is too large, parted if need be."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from verse_tray.editors.load import Editor
from verse_tray.fitting.given_up import given_up
from verse_tray.fitting.icons import Icons
from verse_tray.fitting.judge import Judge, Judged
from verse_tray.fitting.judges import Judges
from verse_tray.fitting.pastes import Pastes, in_pastes
from verse_tray.fitting.probe import without_limits
from verse_tray.fitting.search import Used, search
from verse_tray.fitting.size import over, shrunk
from verse_tray.fitting.table import STRATEGIES, Strategy
from verse_tray.fitting.trips import Trips
from verse_tray.model.findings import Verdict
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.piece import Piece
from verse_tray.reading.read import DESKTOP


class Fitted(Struct, frozen=True):
    """A piece, fitted to an editor."""

    before: Judged
    """The author's text, and what readers get of it."""
    after: Judged
    """The fitted one; the author's own where nothing helps. Of several pastes, all of them in one."""
    used: tuple[Used, ...]
    """What was done, in order."""
    given_up: tuple[str, ...] = ()
    """What no strategy could save of the look, and why, in sentences."""
    alone: float | None = None
    """How much readers get of the piece when it is fitted to this editor alone, where one text is for several."""
    pastes: Pastes | None = None
    """The pastes that it takes, where it is too large for one."""

    @property
    def changed(self) -> bool:
        """Whether it was rewritten at all."""
        return self.after.text != self.before.text or self.pastes is not None

    @property
    def share(self) -> float:
        """How much readers get, of all pastes together, 0 to 1."""
        return self.after.share if self.pastes is None else self.pastes.share

    @property
    def texts(self) -> tuple[str, ...]:
        """What is to be pasted, in order."""
        return (self.after.text,) if self.pastes is None else self.pastes.texts

    @property
    def verdict(self) -> Verdict:
        """What readers get of the author's piece when the fitted one is pasted."""
        after = self.after
        if not self.changed or after.journey.verdict is Verdict.BROKEN:
            return after.journey.verdict
        if self.pastes is not None and self.pastes.too_large:
            return Verdict.BROKEN
        return (
            Verdict.DAMAGED if after.comparison.harmed or after.journey.survival.behaviour.lost else Verdict.REWRITTEN
        )


def fit(
    piece: Piece,
    editor: Editor,
    strategies: Sequence[Strategy] = STRATEGIES,
    *,
    width: int = DESKTOP,
    icons: Icons | None = None,
) -> Fitted:
    """Rewrite a piece so that readers of an editor's page get more of it.

    A piece that is over a limit is fitted as if there were none, then shortened, then parted into pastes.

    Args:
        piece: The piece.
        editor: The editor.
        strategies: The strategies that may be used, in their order.
        width: The window, in CSS pixels, whose look is kept where only one can be.
        icons: Pictures that were drawn of its drawings.
    """
    with collection_paused():
        written = piece.source.text
        trips = Trips(piece.source, editor, width, icons)
        free = without_limits(editor)
        lifted = trips if free is editor else Trips(piece.source, free, width, icons)
        judges = Judges([lifted], written)
        found, judge = search(judges, strategies), judges.judges[0]
        after = shrunk(judge, judge.judge(found.best.text), lambda text: over(trips.draft(text).trip) is None)
        pastes = None
        if over(trips.draft(after.text).trip) is not None:
            if over(trips.draft(written).trip) is None:  # one paste, as it was one
                lifted = trips
                found = search(Judges([trips], written), strategies)
                after = found.best.each[0]
            else:
                after = found.best.each[0]  # as it was typed: no paste is too small for that
                pastes = in_pastes(trips, lifted, judge, after.text)
        lost = given_up(lifted.draft(written), lifted.draft(found.whole))
        if pastes is None:
            after = after._replace(journey=trips.draft(after.text).trip)
        return Fitted(_as_written(trips, judge, written), after, found.used, lost, pastes=pastes)


def _as_written(trips: Trips, judge: Judge, text: str) -> Judged:
    """Return what readers get of the author's text within the limits."""
    if over(trips.draft(text).trip) is not None:
        return Judge(trips, text).judge(text)
    return judge.judge(text)._replace(journey=trips.draft(text).trip)


def fit_together(
    piece: Piece,
    editors: Sequence[Editor],
    strategies: Sequence[Strategy] = STRATEGIES,
    *,
    width: int = DESKTOP,
    icons: Icons | None = None,
) -> tuple[Fitted, ...]:
    """Rewrite a piece into one text that does best in several editors at once; return what those of each get of it."""
    with collection_paused():
        written = piece.source.text
        judges = Judges([Trips(piece.source, editor, width, icons) for editor in editors], written)
        found = search(judges, strategies)
        pairs = zip(judges.trips, judges.judge(written).each, found.best.each, strict=True)
        return tuple(
            Fitted(
                before,
                after,
                found.used,
                given_up(trips.draft(written), trips.draft(found.whole)),
                fit(piece, trips.editor, strategies, width=width, icons=icons).share,
            )
            for trips, before, after in pairs
        )
