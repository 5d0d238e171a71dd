"""``verse-tray trace``."""

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


class Shown(StrEnum):
    """What is shown of a stage."""

    CHANGES = "changes"
    UNIFIED = "unified"
    COLUMNS = "columns"


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="File of HTML; - is standard input.")],
    editor: Annotated[
        str, typer.Option("--editor", metavar="NAME", help="Editor by name (NAME:VARIANT), folder or TOML file.")
    ],
    stage: Annotated[StageName | None, typer.Option("--stage", help="Open this stage.")] = None,
    show_as: Annotated[
        Shown,
        typer.Option(
            "--show", help="What to show: its changes, or the markup before and after it, unified or in columns."
        ),
    ] = Shown.CHANGES,
    markup: Annotated[
        bool,
        typer.Option("--markup", help="Print just the markup as it stands after the stage (publish if none is named)."),
    ] = False,
    every: Annotated[bool, typer.Option("--every", help="Show every change, not just a few of each rule.")] = False,
    reopened: Annotated[
        int,
        typer.Option("--reopened", min=0, max=50, help="How often it is opened in the visual pane and saved again."),
    ] = 1,
    typed: Annotated[
        list[str] | None,
        typer.Option(
            "--typed",
            metavar="KEY",
            help="What is typed at its end in the visual pane: Enter, Shift+Enter or text; may be repeated.",
        ),
    ] = None,
) -> None:
    """Show what each stage of an editor does to a piece, and why.

    All stages are summed up, and the one in which most is lost is opened. --stage opens another.

    \b
    Examples:
      verse-tray trace tide-table.html --editor course-page
      verse-tray trace tide-table.html --editor course-page --stage reopen --every
      verse-tray trace tide-table.html --editor article --stage save --show columns
      verse-tray trace tide-table.html --editor article --typed Enter --typed "More soon" --stage reopen
      verse-tray trace tide-table.html --editor mail-signoff --markup > published.html
    """
    from verse_tray.cli.screen import console, print_raw, show
    from verse_tray.editors.load import load_editor
    from verse_tray.journeys.journey import journey
    from verse_tray.tasks.files import read_piece

    made = journey(read_piece(file), load_editor(editor), reopened=reopened, typed=tuple(typed or ()))
    if markup:
        print_raw(made.stage(stage.value if stage else "publish").markup)
        return
    screen = console()
    if show_as is Shown.CHANGES:
        from verse_tray.reports.trace_text import trace_text

        show(screen, trace_text(made, stage.value if stage else None, every=every, width=screen.width))
        return
    from verse_tray.reports.before_after import columns, unified

    wanted = stage.value if stage else "save"
    show(screen, (unified if show_as is Shown.UNIFIED else columns)(made, wanted))
