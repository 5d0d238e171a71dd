"""Fitting a piece to editors."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial

from msgspec import Struct

from verse_tray.checks.find import mistakes
from verse_tray.editors.chosen import chosen_editors
from verse_tray.fitting.fit import Fitted, fit, fit_together
from verse_tray.fitting.icons import Icons
from verse_tray.fitting.table import STRATEGIES, Strategy
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.phrasing import listed, spelling
from verse_tray.piece.piece import Piece
from verse_tray.reading.read import DESKTOP, PHONE
from verse_tray.tasks.side_by_side import SideBySide

_BROKEN = frozenset(f"markup/{name}" for name in ("end-tag-missing", "quote-missing", "quote-wrong", "text-swallowed"))


class FitRequest(Struct, frozen=True):
    """What is fitted to what."""

    editors: tuple[str, ...]
    """Editors by name or path; ``all`` for every known one."""
    only: tuple[str, ...] = ()
    """Strategies that may be used; none at all for every one."""
    without: tuple[str, ...] = ()
    """Strategies that may not."""
    together: bool = False
    """Whether one text is wanted for all of the editors."""
    icons: Icons | None = None
    """Pictures that were drawn of its drawings."""
    phone: bool = False
    """Whether the look of a phone is kept where only one can be, and not that of a desktop."""
    processes: int = 1
    """How many processes work on it at a time, see :func:`verse_tray.tasks.side_by_side.cores`."""


def fit_piece(piece: Piece, request: FitRequest) -> Iterator[Fitted]:
    """Yield the piece as fitted to each editor.

    Raises:
        InputError: there is no such strategy.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    strategies, width = chosen_strategies(request.only, request.without), PHONE if request.phone else DESKTOP
    editors = chosen_editors(() if "all" in request.editors else request.editors)
    if request.together:
        yield from fit_together(piece, editors, strategies, width=width, icons=request.icons)
        return
    works = [partial(fit, piece, editor, strategies, width=width, icons=request.icons) for editor in editors]
    with SideBySide(works, request.processes) as begun:
        yield from map(begun.result, range(len(works)))


def mended_by_browsers(piece: Piece) -> list[Finding]:
    """Return what is broken in the markup of a piece itself: browsers mend it, and it is fitted as they read it."""
    broken = [each for each in mistakes(piece) if each.rule in _BROKEN or each.rule.startswith("reading/")]
    return sorted((each for each in broken if each.severity is not Severity.NOTE), key=lambda each: each.severity.rank)


def chosen_strategies(only: Sequence[str], without: Sequence[str], where: str = "--") -> tuple[Strategy, ...]:
    """Return the strategies that may be used.

    Args:
        only: Names of those that may; none at all for every one.
        without: Names of those that may not.
        where: What stands before ``only`` and ``without`` where they were written.

    Raises:
        InputError: there is no such strategy.
    """
    known = [each.name for each in STRATEGIES]
    for option, names in (("only", only), ("without", without)):
        for name in names:
            if name not in known:
                near = spelling(name, known, 0.5)
                raise InputError(
                    f"{where}{option} {name}: there is no such strategy{near} There are {listed(known, 30)}."
                )
    wanted = frozenset(only or known) - frozenset(without)
    return tuple(each for each in STRATEGIES if each.name in wanted)
