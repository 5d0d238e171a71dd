"""``verse-tray preview``."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from verse_tray.cli.options import Editors, PictureFolders, Themes, Widths


class Only(StrEnum):
    """Sides that can be shown alone."""

    WRITTEN = "written"
    EDITOR = "editor"
    PUBLISHED = "published"


class Part(StrEnum):
    """Parts of a page that a picture can show."""

    PAGE = "page"
    WINDOW = "window"
    PIECE = "piece"


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="File of HTML; - is standard input.")],
    editor: Editors = None,
    out: Annotated[Path | None, typer.Option("-o", "--out", metavar="OUT.html", help="Where the sheet goes.")] = None,
    png: Annotated[
        Path | None, typer.Option("--png", metavar="OUT.png", help="Where a picture goes; needs a browser.")
    ] = None,
    pdf: Annotated[
        Path | None, typer.Option("--pdf", metavar="OUT.pdf", help="Where a PDF goes; needs a browser.")
    ] = None,
    text: Annotated[
        bool, typer.Option("--text", help="Show the piece here, in the terminal, without a browser.")
    ] = False,
    only: Annotated[
        list[Only] | None, typer.Option("--only", help="Show just this side of the piece; may be repeated.")
    ] = None,
    width: Widths = None,
    theme: Themes = None,
    part: Annotated[
        Part,
        typer.Option("--part", help="What the picture of a single view shows: the page, its window, or the piece."),
    ] = Part.PAGE,
    pictures: PictureFolders = None,
    render: Annotated[
        bool, typer.Option("--render", help="Measure every view in a browser: what sticks out, how alike it looks.")
    ] = False,
    act: Annotated[
        bool, typer.Option("--act", help="Run the scripts, click the controls, and tell what happens; needs a browser.")
    ] = False,
    click: Annotated[
        list[str] | None,
        typer.Option("--click", metavar="SELECTOR", help="With --act: click these, in this order; may be repeated."),
    ] = None,
) -> None:
    """Show what readers will see: the piece as written, in the editor and as published.

    All stand in the page of each editor, on a desktop and on a phone. Nothing is fetched, and no script runs unless
    you say --act. Without -o, --png, --pdf, --text or --act a sheet is written beside the file. Where just one view is
    asked for (one editor, --only, one --width), picture and PDF are of that view in its own size.

    \b
    Examples:
      verse-tray preview tide-table.html
      verse-tray preview tide-table.html --text --editor note-field
      verse-tray preview tide-table.html --editor blog-post --theme all --png sheet.png
      verse-tray preview tide-table.html --editor blog-post --only published --width 375 --png phone.png
      verse-tray preview tide-table.html --editor code-box --act --click .next
    """  # fmt: skip
    from verse_tray.cli.previewing import Output, Wanted, act_out, show_in_terminal, write_preview

    wanted = Wanted(
        file,
        editors=editor,
        sides=tuple(each.value for each in dict.fromkeys(only or ())),
        widths=tuple(dict.fromkeys(width or ())),
        themes=theme,
        folders=tuple(pictures or ()),
    )
    if click and not act:
        raise typer.BadParameter("goes with --act", param_hint="--click")
    if text:
        show_in_terminal(wanted)
    acted = act_out(wanted, tuple(click or ())) if act else {}
    if out or png or pdf or not (text or act):
        write_preview(wanted, Output(out, png, pdf, part.value, render), acted)
