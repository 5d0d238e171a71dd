"""What ``verse-tray compare`` does."""

from __future__ import annotations

from pathlib import Path
from typing import Literal, NamedTuple

from verse_tray.cli.files import console, note, read_piece, show, write_whole
from verse_tray.editors.load import Editor, load_editor
from verse_tray.journeys.journey import journey


class Asked(NamedTuple):
    """What is to be compared."""

    files: tuple[str, str]
    editor: str | None
    side: Literal["written", "published"]
    theme: str | None
    widths: tuple[int, ...]


def compare_files(asked: Asked, out: Path | None, png: Path | None) -> bool:
    """Print what differs, write the sheet and its picture, and return whether the two look the same."""
    from verse_tray.editors.profile import Profile
    from verse_tray.editors.themes import chosen_themes, themes
    from verse_tray.preview.browser import Session
    from verse_tray.preview.browser.screenshots import sheet_picture
    from verse_tray.preview.comparing import compare, compared_sheet
    from verse_tray.preview.pages.local_pictures import LocalPictures
    from verse_tray.preview.sheet import NARROW, WIDE
    from verse_tray.reports.comparison_text import comparison_text

    plain = Editor("", Profile(format="verse-tray-editor/1", title="", summary=""))
    editor = load_editor(asked.editor) if asked.editor else plain
    chosen = chosen_themes([editor], [asked.theme] if asked.theme else None)[editor.name]
    css = themes(editor)[chosen[0]]
    first, second = (journey(read_piece(name), editor) for name in asked.files)
    homes = [None if name == "-" else Path(name).parent for name in asked.files]
    pictures = (LocalPictures(homes[0]), LocalPictures(homes[1]))
    with Session() as session:
        made = compare(session, first, second, asked.side, css, asked.widths or (WIDE, NARROW), pictures)
        screen = console()
        show(screen, comparison_text(made, asked.files))
        if out is not None or png is not None:
            sheet = compared_sheet(made, css, pictures, asked.files)
            if out is not None:
                write_whole(out, sheet.encode("utf-8", "replace"))
                note(f"Wrote {out}: open it in a browser.")
            if png is not None:
                write_whole(png, sheet_picture(session, sheet))
                note(f"Wrote {png}.")
    return made.same
