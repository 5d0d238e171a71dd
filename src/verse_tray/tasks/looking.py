"""A browser that looks at pieces: started once, for all of them and all editors."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from functools import partial
from typing import TYPE_CHECKING

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.load import Editor
from verse_tray.editors.themes import chosen_looks
from verse_tray.journeys.journey import Journey, journey
from verse_tray.model.errors import BrowserError, not_installed
from verse_tray.piece.piece import Piece
from verse_tray.tasks.check import Look
from verse_tray.tasks.files import home_of

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered


def renderer() -> Callable[..., Rendered]:
    """Return what looks at a journey in a browser.

    Raises:
        BrowserError: a package that it needs is not there.
    """
    try:
        from verse_tray.preview.measuring.render import render
    except ImportError as error:
        raise BrowserError(not_installed("looking at a page", error, "browser")) from None
    return render


@contextmanager
def looking(editors: Sequence[Editor], names: list[str] | None) -> Iterator[Look]:
    """Start a browser and give what looks at a piece in it; without an editor, on a plain page.

    Args:
        editors: The editors.
        names: Names of themes, or ``all``; None for each one's usual theme.

    Raises:
        BrowserError: there is no browser, or it failed.
        UnknownThemeError: no editor has such a theme.
    """
    from verse_tray.preview.browser import SteadySession
    from verse_tray.preview.pages.local_pictures import LocalPictures
    from verse_tray.preview.sheet import NARROW, WIDE

    plain = plain_editor()
    sites = list(editors) or [plain]
    looks = chosen_looks(sites, names or ())
    with SteadySession() as browser:
        render = renderer()

        def look(piece: Piece, journeys: tuple[Journey, ...]) -> Mapping[str, Rendered]:
            pictures = LocalPictures(home_of(piece.source.name))
            seen = {}
            for each in journeys or (journey(piece, plain),):
                look_at = partial(
                    render,
                    journey=each,
                    themes=looks[each.editor.name],
                    widths=(WIDE, NARROW),
                    pictures=pictures,
                    compare=bool(journeys),
                )
                seen[each.editor.name] = browser.do(look_at)
            return seen

        yield look
