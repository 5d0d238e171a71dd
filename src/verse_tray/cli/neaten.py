"""``verse-tray neaten``."""

from pathlib import Path
from typing import Annotated

import typer


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="The piece; - is standard input.")],
    width: Annotated[
        int,
        typer.Option("--width", min=20, max=1000, metavar="COLUMNS", help="Longest line; 60 or so for a small pane."),
    ] = 100,
    compact: Annotated[bool, typer.Option("--compact", help="The reverse: no white space that means nothing.")] = False,
    out: Annotated[Path | None, typer.Option("-o", "--out", metavar="PATH", help="File to write to.")] = None,
) -> None:
    """Lay a piece out for reading, without changing what readers get.

    White space that shows (in pre, between words and links, where styles keep it) stays. Comments in the markup stay,
    and scripts are only indented. The result is held against the piece: were it to read differently, the piece is
    passed on as it is.

    \b
    Examples:
      verse-tray neaten low-water-walk.html
      verse-tray neaten low-water-walk.html --width 60 -o for-the-pane.html
      verse-tray neaten low-water-walk.html --compact | verse-tray check -
    """
    from verse_tray.cli.screen import note, write_result
    from verse_tray.edit.layout import compact as lay_out_small
    from verse_tray.edit.layout import neaten
    from verse_tray.tasks.files import read_piece

    source = read_piece(file).source
    laid_out = lay_out_small(source) if compact else neaten(source, width=width)
    if not laid_out.changed:
        note(
            f"{file}: passed on as it is, because other white space could show. Mend its mistakes first: verse-tray "
            f"check {file}"
        )
    write_result(source.encode(laid_out.text), out)
