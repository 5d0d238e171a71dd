"""A browser that looks at pieces: started once, for all of them and all editors."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack, contextmanager, suppress
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
from verse_tray.tasks.loading import loading

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered


def observer() -> Callable[..., Callable[[], Rendered]]:
    """Return what looks at a journey in a browser, see :func:`verse_tray.preview.measuring.render.observe`.

    Raises:
        BrowserError: a package that it needs is not there.
    """
    try:
        from verse_tray.preview.measuring.render import observe
    except ImportError as error:
        raise BrowserError(not_installed("looking at a page", error, "browser")) from None
    return observe


def _load_ahead(besides: Callable[[], object]) -> None:
    with suppress(BrowserError):  # told where it is needed
        observer()
    besides()


@contextmanager
def looking(
    editors: Sequence[Editor], names: list[str] | None, meanwhile: Callable[[], object] = lambda: None
) -> Iterator[Look]:
    """Start a browser and give what looks at a piece in it; without an editor, on a plain page.

    Args:
        editors: The editors.
        names: Names of themes, or ``all``; None for each one's usual theme.
        meanwhile: Loads what is needed later, while the browser starts.

    Raises:
        BrowserError: there is no browser, or it failed.
        UnknownThemeError: no editor has such a theme.
    """
    from verse_tray.preview.browser import SteadySession
    from verse_tray.preview.browser.find import load_driver

    plain = plain_editor()
    sites = list(editors) or [plain]
    looks = chosen_looks(sites, names or ())
    with ThreadPoolExecutor(1) as pool, ExitStack() as stack:
        load_driver()  # alone, as all else waits for it
        with loading(partial(_load_ahead, meanwhile)):  # the browser takes as long to start
            browser = stack.enter_context(SteadySession())
        from verse_tray.preview.pages.local_pictures import LocalPictures
        from verse_tray.preview.pages.window import NARROW, WIDE

        observe = observer()

        def look(piece: Piece, journeys: tuple[Journey, ...]) -> Mapping[str, Callable[[], Rendered]]:
            pictures, widths = LocalPictures(home_of(piece.source.name)), (WIDE, NARROW)
            seen = {}
            for each in journeys or (journey(piece, plain),):
                themes, comparing = looks[each.editor.name], pool if journeys else None
                look_at = partial(
                    observe, journey=each, themes=themes, widths=widths, pictures=pictures, pool=comparing
                )
                seen[each.editor.name] = browser.do(look_at)
            return seen

        yield look
