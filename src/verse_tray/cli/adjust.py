"""``verse-tray adjust``."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer


class Format(StrEnum):
    """Forms of the list."""

    TEXT = "text"
    JSON = "json"


class ColourForm(StrEnum):
    """Forms that a colour can be written in."""

    HEX = "hex"
    RGB = "rgb"
    HSL = "hsl"
    NAME = "name"


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="The piece; - is standard input.")],
    set_: Annotated[
        list[str] | None,
        typer.Option(
            "--set",
            metavar="NAME=VALUE",
            help="Give a value of the list another, by its name, or by what it is now; may be repeated. With --on: a "
            "style declaration, or with @ in front an attribute.",
        ),
    ] = None,
    on: Annotated[
        str | None,
        typer.Option("--on", metavar="SELECTOR", help="Set on every element that matches, whether it has it or not."),
    ] = None,
    colours: Annotated[ColourForm | None, typer.Option("--colours", help="Write every colour in one form.")] = None,
    format: Annotated[Format, typer.Option("--format", help="Form of the list.")] = Format.TEXT,
    out: Annotated[Path | None, typer.Option("-o", "--out", metavar="PATH", help="File to write the piece to.")] = None,
) -> None:
    """List the values that are worth changing in a piece, or set them without touching anything else.

    \b
    Examples:
      verse-tray adjust low-water-walk.html
      verse-tray adjust low-water-walk.html --set book-background=teal --set '#1d4f53=#123' -o walk.html
      verse-tray adjust list.html --on li --set margin-bottom=8px
      verse-tray adjust low-water-walk.html --colours rgb > walk.html
    """
    from verse_tray.cli.files import console, note, print_raw, read_piece, show, write_result
    from verse_tray.cli.filling import fixed_values
    from verse_tray.edit.adjust import convert_colours, set_on, set_values
    from verse_tray.edit.values import find_values
    from verse_tray.model.decoding import Source
    from verse_tray.model.errors import InputError
    from verse_tray.model.phrasing import counted
    from verse_tray.piece.piece import Piece

    piece = read_piece(file)
    source = piece.source
    settings = fixed_values(set_ or [])
    if on is not None and not settings:
        raise InputError("--on says where; say what with --set, such as --on li --set margin-bottom=8px.")
    if not settings and colours is None:
        found = find_values(piece)
        if format is Format.JSON:
            from verse_tray.reports.value_text import values_json

            print_raw(values_json(source, found))
        else:
            from verse_tray.reports.value_text import values_text

            screen = console()
            show(screen, values_text(source, found))
        return
    text = source.text
    if on is not None:
        text, count = set_on(piece, on, settings)
        note(f"Set on {counted(count, 'element')}.")
    elif settings:
        text = set_values(piece, settings)
    if colours is not None:
        text = convert_colours(Piece(Source(text, source.name, source.encoding, source.mark)), colours.value)
    write_result(source.encode(text), out)
