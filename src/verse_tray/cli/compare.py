"""``verse-tray compare``."""

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from verse_tray.cli.options import Widths


class Side(StrEnum):
    """Sides that can be compared."""

    WRITTEN = "written"
    PUBLISHED = "published"


def command(
    first: Annotated[str, typer.Argument(metavar="FILE", help="File of HTML.")],
    second: Annotated[
        str, typer.Argument(metavar="OTHER", help="Another one, or another version of it; - is standard input.")
    ],
    editor: Annotated[
        str | None,
        typer.Option(
            "--editor",
            metavar="NAME",
            help="Editor in whose page they stand: a name, folder or TOML file. Left out: a plain page.",
        ),
    ] = None,
    side: Annotated[
        Side, typer.Option("--side", help="Whether they are compared as written or as published.")
    ] = Side.PUBLISHED,
    theme: Annotated[
        str | None, typer.Option("--theme", metavar="NAME", help="Theme of the site. Left out: the usual.")
    ] = None,
    width: Widths = None,
    out: Annotated[
        Path | None, typer.Option("-o", "--out", metavar="OUT.html", help="Where a sheet with both goes.")
    ] = None,
    png: Annotated[
        Path | None, typer.Option("--png", metavar="OUT.png", help="Where a picture of that sheet goes.")
    ] = None,
) -> None:
    """Show two pieces side by side at the same scale, and measure what differs.

    Told are gaps, sizes, text sizes, fonts and colours, with the place in the first file. Needs a browser. Exit code 1
    says that something differs.

    \b
    Examples:
      verse-tray compare tide-table.html tide-table-airy.html
      verse-tray compare old.html new.html --editor blog-post --theme night --width 375 -o compared.html
    """  # fmt: skip
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, note, show
    from verse_tray.reports.comparison_text import comparison_text
    from verse_tray.tasks.compare import CompareRequest, compare
    from verse_tray.tasks.outputs import write_whole

    files = (first, second)
    widths = tuple(dict.fromkeys(width or ()))
    request = CompareRequest(files, editor, side.value, theme, widths, sheet=out is not None, png=png is not None)
    compared = compare(request)
    screen = console()
    show(screen, comparison_text(compared.comparison, files))
    if out is not None and compared.sheet is not None:
        write_whole(out, compared.sheet)
        note(f"Wrote {out}: open it in a browser.")
    if png is not None and compared.png is not None:
        write_whole(png, compared.png)
        note(f"Wrote {png}.")
    if not compared.comparison.same:
        raise typer.Exit(ExitCode.FOUND)
