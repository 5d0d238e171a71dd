"""Checking pieces: their mistakes, and what each editor keeps of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import AbstractContextManager, ExitStack
from functools import partial
from itertools import count
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar, cast

from msgspec import Struct, structs

from verse_tray.checks.find import Found, find
from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Site
from verse_tray.reports.results import PieceResult
from verse_tray.tasks.journeys import MUCH, packed_journey
from verse_tray.tasks.side_by_side import SideBySide

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered

T = TypeVar("T")
Look = Callable[[Piece, tuple[Journey, ...]], Mapping[str, Callable[[], "Rendered"]]]
"""Looks at a piece in a browser, and gives what waits until pictures are compared, by the editor's name; see
:func:`verse_tray.tasks.looking.looking`."""
_MISTAKES = 2  # journeys that take as long as looking for mistakes
Progress = Callable[[Sequence[Editor], Piece], Iterable[Editor]]
"""Passes editors on while it shows that a piece is sent through them."""


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
    processes: int = 1
    """How many processes work on them at a time, see :func:`verse_tray.tasks.side_by_side.cores`."""


def check(
    pieces: Iterable[Piece],
    request: CheckRequest,
    looking: AbstractContextManager[Look] | None = None,
    progress: Progress = lambda editors, _: editors,
) -> Iterator[PieceResult]:
    """Begin with it at once, and yield what is found in each piece, one after the other.

    Args:
        pieces: The pieces.
        request: How they are checked.
        looking: Gives what looks at them in a browser as well; entered when the work that needs none has begun.
        progress: Passes editors on while it shows that a piece is sent through them.

    Raises:
        UnknownRuleError: a silenced rule does not exist.
        BrowserError: the browser failed.
    """
    held = list(pieces)
    told = _told(_begun(held, request, is_waiting=looking is not None), held, request, looking, progress)
    next(told)  # the browser starts; it is ended with what is returned, though nobody asks for a result
    return cast("Iterator[PieceResult]", told)


def _begun(pieces: Sequence[Piece], request: CheckRequest, *, is_waiting: bool) -> SideBySide[Any]:
    """Begin to look for mistakes and to send pieces through editors, side by side where that is worth it."""
    works: list[Callable[[], Any]] = []
    turns = _Turns()
    for piece in pieces:
        works.append(partial(turns.of, piece, _mistakes, request))
        works += [partial(turns.of, piece, packed_journey, editor, request.reopened) for editor in request.editors]
    much = sum(len(piece.source.text) for piece in pieces) * (len(request.editors) + _MISTAKES)
    processes = request.processes if is_waiting or much > MUCH else 1
    if processes > 1:
        _ = pieces[0].parsed.places, pieces[0].written_view.cascade  # once, before there are several who would
    return SideBySide(works, processes)


class _Turns:
    """Works on one piece after the other in one process: what is known of a piece goes when the next is begun."""

    def __init__(self) -> None:
        self._piece: Piece | None = None

    def of(self, piece: Piece, work: Callable[..., T], *more: Any) -> T:
        """Do some work on a piece."""
        if self._piece is not None and self._piece is not piece:
            self._piece.rest()
        self._piece = piece
        return work(piece, *more)


def _told(
    begun: SideBySide[Any],
    pieces: list[Piece],
    request: CheckRequest,
    looking: AbstractContextManager[Look] | None,
    progress: Progress,
) -> Iterator[PieceResult | None]:
    """Yield None when all has begun, then what came of each piece, and what was seen of it."""
    numbers = count()
    with ExitStack() as browser, begun:
        look = browser.enter_context(looking) if looking else None
        yield None
        while pieces:  # none is held longer than it is worked on
            piece = pieces.pop(0)
            found = begun.result(next(numbers))
            journeys = tuple(
                Journey.unpacked(piece, editor, begun.result(next(numbers)))
                for editor in progress(request.editors, piece)
            )
            seen = look(piece, journeys) if look else {}
            if not pieces:
                browser.close()  # it takes its time: the last pictures are compared meanwhile
            yield PieceResult(piece, found, journeys, {name: told() for name, told in seen.items()})


def _mistakes(piece: Piece, request: CheckRequest) -> tuple[Found, ...]:
    sites, folder = tuple(map(_site, request.editors)), Path(piece.source.name).parent
    return find(piece, silenced=request.silenced, sites=sites, region=request.region, folder=folder)


def _site(editor: Editor) -> Site:
    """Return what the rules about mistakes know of an editor's site."""
    fill = editor.profile.publish.fill
    found = Site(editor.name, editor.frame, editor.theme, editor.profile.box is not None)
    if fill is None:
        return found
    return structs.replace(
        found, opening=fill.opening, closing=fill.closing, fills=frozenset((*fill.values, *fill.holders))
    )
