"""A piece that was made for an editor, and the usual one as fitting leaves it: the one that gives readers more."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from verse_tray.editors.load import Editor
from verse_tray.fitting.fit import fit
from verse_tray.fitting.judge import Judge
from verse_tray.fitting.trips import Trips
from verse_tray.make.builder import Made
from verse_tray.make.terms import Styles, Terms
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

_BETTER = 0.05  # of the whole likeness: less is no reason for another form
_GOOD = 0.9  # below that, what is left is better made in another form


def better_fitted(made: Made, editor: Editor, build: Callable[[Terms], Made]) -> Made:
    """Return a piece, or what fitting makes of it as it is usually made, where readers get clearly more of that.

    Args:
        made: The piece as it survives the editor.
        editor: The editor.
        build: Makes the piece in its first form.
    """
    usual = build(Terms(Styles.INLINE))
    trips = Trips(Source(usual.markup), editor)
    survival = trips.draft(usual.markup).trip.survival
    if survival.behaviour.lost or "<script" in usual.markup:
        return made  # what it does would not happen: another form does it otherwise
    fitted = fit(Piece(Source(usual.markup)), editor)
    share = Judge(trips, usual.markup).judge(made.markup).share
    if fitted.pastes is not None or fitted.share < max(_GOOD, share + _BETTER):
        return made
    used = ", ".join(each.name for each in fitted.used)
    note = f"Fitted to {editor.name} ({used}), as fit does." if used else f"As usual: {editor.name} keeps most of it."
    return replace(usual, markup=fitted.after.text, notes=(*usual.notes, note))
