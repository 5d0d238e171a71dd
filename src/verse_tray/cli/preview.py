"""``verse-tray preview``."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="File of HTML; - is standard input.")],
    editor: Annotated[
        list[str] | None,
        typer.Option(
            "--editor",
            metavar="NAME",
            help="Editor by name, folder or TOML file, :VARIANT or :all behind it; may be repeated. Left out: all.",
        ),
    ] = None,
    out: Annotated[Path | None, typer.Option("-o", "--out", metavar="OUT.html", help="Where the sheet goes.")] = None,
    png: Annotated[
        Path | None,
        typer.Option("--png", metavar="OUT.png", help="Where a picture of the sheet goes; needs a browser."),
    ] = None,
    pictures: Annotated[
        list[Path] | None,
        typer.Option(
            "--pictures",
            metavar="FOLDER",
            exists=True,
            file_okay=False,
            help="Folder with copies of the pictures, found by their file names; may be repeated.",
        ),
    ] = None,
) -> None:
    """Show a piece as written beside as published.

    Both stand in the page of each editor, on a desktop and on a phone. Nothing is fetched
    and no script runs. Without -o and --png the sheet is written beside the file.

    \b
    Examples:
      verse-tray preview tide-table.html
      verse-tray preview tide-table.html --editor blog-post --pictures pictures -o sheet.html
      verse-tray preview tide-table.html --png sheet.png
    """  # fmt: skip
    from verse_tray.cli.files import chosen_editors, note, read_piece, write_whole
    from verse_tray.journeys.engine import journey
    from verse_tray.preview.sheet import sheet

    piece = read_piece(file)
    made = sheet([journey(piece, each) for each in chosen_editors(editor)], tuple(pictures or ()))
    if out is None and png is None:
        out = Path("piece.preview.html") if file == "-" else Path(file).with_suffix(".preview.html")
    if out is not None:
        write_whole(out, made.encode("utf-8", "replace"))
        note(f"Wrote {out}: open it in a browser.")
    if png is not None:
        from verse_tray.preview.browser import picture

        write_whole(png, picture(made))
        note(f"Wrote {png}.")
