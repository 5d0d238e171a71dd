"""A browser for ``check``: started once, for all pieces and editors."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.model.errors import BrowserError
from verse_tray.piece.piece import Piece

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered

Look = Callable[[Piece, tuple[Journey, ...]], "dict[str, Rendered]"]


def renderer() -> Callable[..., Rendered]:
    """Return what looks at a journey in a browser.

    Raises:
        BrowserError: a package that it needs is not there.
    """
    try:
        from verse_tray.preview.measuring.render import render
    except ImportError as error:
        raise BrowserError(
            f"looking at a page needs the package {error.name}. Install it with: pip install 'verse-tray[browser]'"
        ) from None
    return render


@contextmanager
def looking(editors: list[Editor], names: list[str] | None) -> Iterator[Look]:
    """Start a browser and give what looks at a piece in it; without an editor, on a plain page.

    Args:
        editors: The editors.
        names: Names of themes, or ``all``; None for each one's usual theme.
    """
    from verse_tray.editors.profile import Profile
    from verse_tray.editors.themes import chosen_themes, themes
    from verse_tray.preview.browser import Session
    from verse_tray.preview.pages.local_pictures import LocalPictures
    from verse_tray.preview.sheet import NARROW, WIDE

    plain = Editor("", Profile(format="verse-tray-editor/1", title="", summary=""))
    chosen = chosen_themes(editors or [plain], names)
    looks = {each.name: {name: css for name, css in themes(each).items() if name in chosen[each.name]}
             for each in editors or [plain]}  # fmt: skip
    with Session() as session:
        render = renderer()

        def look(piece: Piece, journeys: tuple[Journey, ...]) -> dict[str, Rendered]:
            home = None if piece.source.name == "-" else Path(piece.source.name).parent
            pictures = LocalPictures(home)
            seen = {}
            for each in journeys or (journey(piece, plain),):
                name = each.editor.name
                seen[name] = render(session, each, looks[name], (WIDE, NARROW), pictures, compare=bool(journeys))
            return seen

        yield look
