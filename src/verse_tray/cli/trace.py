"""``verse-tray trace``."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

import typer


class StageName(StrEnum):
    """Stages of a journey."""

    WRITTEN = "written"
    PASTE = "paste"
    SAVE = "save"
    REOPEN = "reopen"
    PUBLISH = "publish"


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="File of HTML; - is standard input.")],
    editor: Annotated[str, typer.Option("--editor", metavar="NAME", help="Editor by name, folder or TOML file.")],
    stage: Annotated[StageName | None, typer.Option("--stage", help="Show this stage only.")] = None,
    markup: Annotated[
        bool,
        typer.Option("--markup", help="Print just the markup as it stands after the stage (publish if none is named)."),
    ] = False,
    every: Annotated[bool, typer.Option("--every", help="Show every change, not just a few of each rule.")] = False,
) -> None:
    """Show what each stage of an editor does to a piece, and why.

    \b
    Examples:
      verse-tray trace tide-table.html --editor course-page
      verse-tray trace tide-table.html --editor course-page --stage save --every
      verse-tray trace tide-table.html --editor mail-signoff --markup > published.html
    """
    from verse_tray.cli.files import console, print_raw, read_piece, show
    from verse_tray.editors.load import load_editor
    from verse_tray.journeys.engine import journey
    from verse_tray.journeys.stages import STAGES

    made = journey(read_piece(file), load_editor(editor))
    if markup:
        wanted = stage.value if stage else STAGES[-1]
        print_raw(next(each.markup for each in made.stages if each.name == wanted))
        return
    from verse_tray.reports.trace_text import trace_text

    screen = console()
    show(screen, trace_text(made, stage.value if stage else None, every=every, width=screen.width))
