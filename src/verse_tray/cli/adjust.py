"""``verse-tray adjust``."""

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from verse_tray.cli.options import Format


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
    from verse_tray.cli.screen import console, note, print_raw, show, write_result
    from verse_tray.edit.values import find_values
    from verse_tray.model.phrasing import counted
    from verse_tray.reports.value_text import values_json, values_text
    from verse_tray.tasks.adjust import AdjustRequest, adjust, read_settings
    from verse_tray.tasks.files import read_piece

    piece = read_piece(file)
    settings = read_settings(piece, set_ or [], on=on)
    if not settings and colours is None and on is None:
        found = find_values(piece)
        if format is Format.JSON:
            print_raw(values_json(piece.source, found))
        else:
            screen = console()
            show(screen, values_text(piece.source, found))
        return
    adjusted = adjust(piece, AdjustRequest(settings, on, None if colours is None else colours.value))
    if adjusted.count is not None:
        note(f"Set on {counted(adjusted.count, 'element')}.")
    for each in adjusted.notes:
        note(each)
    for finding in adjusted.findings:
        note(f"{piece.source.name}:{finding.line}:{finding.column}: now: {finding.message} [{finding.rule}]")
    write_result(piece.source.encode(adjusted.text), out)
