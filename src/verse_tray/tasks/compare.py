"""Comparing two pieces in a browser."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Literal

from msgspec import Struct

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.load import load_editor
from verse_tray.editors.themes import chosen_looks
from verse_tray.journeys.journey import journey
from verse_tray.tasks.files import home_of, read_piece

if TYPE_CHECKING:
    from verse_tray.preview.comparing import Comparison


class CompareRequest(Struct, frozen=True):
    """What is to be compared."""

    files: tuple[str, str]
    """The pieces."""
    editor: str | None = None
    """Editor in whose page they stand; None for a plain page."""
    side: Literal["written", "published"] = "published"
    """Whether they are compared as written or as published."""
    theme: str | None = None
    """Theme of the site; None for the usual one."""
    widths: tuple[int, ...] = ()
    """Widths of the windows in CSS pixels; none at all for a desktop and a phone."""
    sheet: bool = False
    """Whether a sheet with both is made."""
    png: bool = False
    """Whether a picture of that sheet is taken."""


class Compared(Struct, frozen=True):
    """Two pieces, compared."""

    comparison: Comparison
    """What differs."""
    sheet: bytes | None
    """The sheet with both, where that was asked for."""
    png: bytes | None
    """Its picture, where that was asked for."""


def compare(request: CompareRequest) -> Compared:
    """Compare two pieces.

    Raises:
        InputError, UnknownEditorError, UnknownThemeError, BrowserError: as their texts say.
    """
    from verse_tray.preview.browser import Session
    from verse_tray.preview.browser.screenshots import sheet_picture
    from verse_tray.preview.comparing import compare as compare_in
    from verse_tray.preview.comparing import compared_sheet
    from verse_tray.preview.pages.local_pictures import LocalPictures
    from verse_tray.preview.sheet import NARROW, WIDE

    editor = load_editor(request.editor) if request.editor else plain_editor()
    css, *_ = chosen_looks([editor], [request.theme] if request.theme else ())[editor.name].values()
    first, second = (journey(read_piece(name), editor) for name in request.files)
    homes: list[Path | None] = [home_of(name) for name in request.files]
    pictures = (LocalPictures(homes[0]), LocalPictures(homes[1]))
    with Session() as session:
        made = compare_in(session, first, second, request.side, css, request.widths or (WIDE, NARROW), pictures)
        if not (request.sheet or request.png):
            return Compared(made, None, None)
        sheet = compared_sheet(made, css, pictures, request.files)
        png = sheet_picture(session, sheet) if request.png else None
        return Compared(made, sheet, png)
