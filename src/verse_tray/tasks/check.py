"""Checking pieces: their mistakes, and what each editor keeps of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec import Struct

from verse_tray.checks.find import find
from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Site
from verse_tray.reports.results import PieceResult

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered

Look = Callable[[Piece, tuple[Journey, ...]], "Mapping[str, Rendered]"]
"""Looks at a piece in a browser, see :func:`verse_tray.tasks.looking.looking`."""


class CheckRequest(Struct, frozen=True):
    """How pieces are checked."""

    editors: tuple[Editor, ...]
    """Editors to send them through."""
    silenced: tuple[str, ...] = ()
    """Rules about mistakes that are not to look; ``all`` for every rule."""
    reopened: int = 1
    """How often they are opened in the visual pane and saved again."""
    region: int | None = None
    """Width in CSS pixels of the region that will hold them, if that is known."""


def check(
    pieces: Iterable[Piece],
    request: CheckRequest,
    look: Look | None = None,
    progress: Callable[[Sequence[Editor], Piece], Iterable[Editor]] = lambda editors, _: editors,
) -> Iterator[PieceResult]:
    """Yield what is found in each piece, one after the other.

    Args:
        pieces: The pieces.
        request: How they are checked.
        look: What looks at them in a browser as well.
        progress: Passes editors on while it shows that a piece is sent through them.

    Raises:
        UnknownRuleError: a silenced rule does not exist.
        BrowserError: the browser failed.
    """
    sites = tuple(map(_site, request.editors))
    for piece in pieces:
        folder = Path(piece.source.name).parent
        found = find(piece, silenced=request.silenced, sites=sites, region=request.region, folder=folder)
        made = (journey(piece, editor, reopened=request.reopened) for editor in progress(request.editors, piece))
        journeys = tuple(made if look else (each.without_trees() for each in made))  # one journey's trees at a time
        yield PieceResult(piece, found, journeys, look(piece, journeys) if look else {})


def _site(editor: Editor) -> Site:
    """Return what the rules about mistakes know of an editor's site."""
    fill = editor.profile.publish.fill
    found = Site(editor.name, editor.frame, editor.theme, editor.profile.box is not None)
    if fill is None:
        return found
    return found._replace(opening=fill.opening, closing=fill.closing, fills=frozenset((*fill.values, *fill.holders)))
