"""``verse-tray new``."""

import sys
from pathlib import Path
from typing import Annotated

import typer


def command(
    folder: Annotated[Path, typer.Argument(metavar="FOLDER", help="Folder of the tray; it is made.")],
    kind: Annotated[
        str | None,
        typer.Option("--kind", metavar="KIND", help="Piece to begin with: section, banner, cards, table or widget."),
    ] = None,
    on: Annotated[
        str | None, typer.Option("--on", metavar="SITE:PAGE", help="Page of a site that it goes to; see sites.")
    ] = None,
    region: Annotated[str | None, typer.Option("--region", metavar="NAME", help="Region of that page.")] = None,
    position: Annotated[
        str, typer.Option("--position", metavar="PLACE", help="A number, before ITEM or after ITEM.")
    ] = "",
    title: Annotated[str, typer.Option("--title", help="Title of the tray.")] = "",
) -> None:
    """Begin a tray: a folder with a piece to write on, and a tray.toml that says what it is made of and where it goes.

    In a terminal, what is left out is asked for. In the folder, check, preview, live, fit and place without a file do
    all of its pieces.

    \b
    Examples:
      verse-tray new november --kind banner --on field-blog:post --region sidebar --position 2
      verse-tray new tide-clock --kind widget --on field-shop:guide --region description
    """
    from verse_tray.cli.screen import note
    from verse_tray.model.errors import InputError
    from verse_tray.tasks.new import KINDS, NewTray, begin_tray

    asks = sys.stdin is not None and sys.stdin.isatty() and sys.stderr.isatty()
    if kind is None:
        if not asks:
            raise InputError(f"--kind: name the piece to begin with: {', '.join(KINDS)}.")
        kind = _asked(f"What kind of piece ({', '.join(KINDS)})?", "section")
    if on is None:
        if not asks:
            raise InputError("--on: name the page that it goes to, as SITE:PAGE. verse-tray sites lists some.")
        on = _asked("Which page does it go to (SITE:PAGE; verse-tray sites lists some)?", "field-blog:post")
    if region is None and asks and (known := _regions(on)):
        region = _asked(f"Which region ({', '.join(known)})?", known[0])
    files = begin_tray(NewTray(folder, kind, on, region or "", position, title))
    note(f"Wrote {', '.join(files)} into {folder}. Go there, and run: verse-tray check, verse-tray place")


def _asked(question: str, usual: str) -> str:
    return str(typer.prompt(question, default=usual, err=True))


def _regions(on: str) -> list[str]:
    """Return the regions of a page, where there are several."""
    from verse_tray.sites.load import chosen_page, load_site, split_page

    name, page = split_page(on)
    site = load_site(name)
    regions = list(site.site.pages[chosen_page(site, page)].regions)
    return regions if len(regions) > 1 else []
