"""Fitting a piece to editors."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from verse_tray.editors.chosen import chosen_editors
from verse_tray.fit.search import Fitted, fit
from verse_tray.fit.table import STRATEGIES, Strategy
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed, spelling
from verse_tray.piece.piece import Piece


class FitRequest(Struct, frozen=True):
    """What is fitted to what."""

    editors: tuple[str, ...]
    """Editors by name or path; ``all`` for every known one."""
    only: tuple[str, ...] = ()
    """Strategies that may be used; none at all for every one."""
    without: tuple[str, ...] = ()
    """Strategies that may not."""


def fit_piece(piece: Piece, request: FitRequest) -> Iterator[Fitted]:
    """Yield the piece as fitted to each editor.

    Raises:
        InputError: there is no such strategy.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    strategies = _chosen(request)
    names = () if "all" in request.editors else request.editors
    for editor in chosen_editors(names):
        yield fit(piece, editor, strategies)


def _chosen(request: FitRequest) -> list[Strategy]:
    known = [each.name for each in STRATEGIES]
    for option, names in (("--only", request.only), ("--without", request.without)):
        for name in names:
            if name not in known:
                near = spelling(name, known, 0.5)
                raise InputError(f"{option} {name}: there is no such strategy{near} There are {listed(known, 30)}.")
    wanted = frozenset(request.only or known) - frozenset(request.without)
    return [each for each in STRATEGIES if each.name in wanted]
