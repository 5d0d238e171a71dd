"""``verse-tray place``."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.options import Format

if TYPE_CHECKING:
    from verse_tray.place.placement import Placement


class Threshold(StrEnum):
    """Verdicts from which on the exit code is 1."""

    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"
    NEVER = "never"


def command(
    files: Annotated[
        list[str] | None, typer.Argument(metavar="FILE...", help="The pieces, in order; - is standard input.")
    ] = None,
    on: Annotated[
        list[str] | None,
        typer.Option("--on", metavar="SITE:PAGE", help="Page of a site (name, folder or TOML file); may be repeated."),
    ] = None,
    region: Annotated[
        list[str] | None,
        typer.Option("--region", metavar="NAME", help="Region of the page; may be repeated. Left out: the only one."),
    ] = None,
    position: Annotated[
        str,
        typer.Option(
            "--position",
            metavar="PLACE",
            help="A number, before ITEM or after ITEM, among what stands there. Left out: behind everything.",
        ),
    ] = "",
    as_given: Annotated[
        bool,
        typer.Option("--as-given", help="The pieces are code from elsewhere: paste them as they are, rewrite nothing."),
    ] = False,
    copy: Annotated[
        int | None,
        typer.Option("--copy", metavar="NUMBER", min=1, help="Put the text of one paste on the clipboard."),
    ] = None,
    format: Annotated[
        Format, typer.Option("--format", help="What goes where, or the same with the texts as JSON.")
    ] = Format.TEXT,
    fail_on: Annotated[
        Threshold, typer.Option("--fail-on", help="Worst of what readers get that exits with 1.")
    ] = Threshold.DAMAGED,
    out: Annotated[
        Path | None,
        typer.Option("-o", "--out", metavar="FOLDER", help="Where it goes. Left out: NAME.placed beside the piece."),
    ] = None,
) -> None:
    """Say which part of a piece goes where on a site, in which order, and write what there is to paste.

    A piece that a field would not keep whole is taken apart: styles and scripts go into the slots that the site has
    for them, code into holders, the rest is fitted. The folder gets the pastes, numbered, a paste sheet to work through
    (HTML and Markdown) and the page as it will be.

    \b
    Examples:
      verse-tray place low-water-walk.html --on field-shop:guide --region description
      verse-tray place banner.html --on field-blog:post --region sidebar --position 2
      verse-tray place walk.html banner.html --on survey-site:reports -o pasting
      verse-tray place --copy 2 -o pasting
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import print_raw
    from verse_tray.model.errors import InputError
    from verse_tray.model.findings import Severity, Verdict
    from verse_tray.place.placement import worst
    from verse_tray.reports.placement_text import placement_json
    from verse_tray.tasks.place import PlaceRequest, place_pieces

    if copy is not None and not files:
        if out is None:
            raise typer.BadParameter("names a paste of a folder: give it with -o", param_hint="--copy")
        _copy(out, copy)
        return
    if not files:
        raise typer.BadParameter("give at least one file of HTML, or - for standard input", param_hint="FILE...")
    if not on:
        raise InputError("name the page with --on SITE:PAGE. verse-tray sites lists those that come with it.")
    request = PlaceRequest(tuple(files), tuple(on), tuple(region or ()), position, as_given)
    placements = place_pieces(request)
    if format is Format.JSON:
        from verse_tray.place.steps import steps_of

        print_raw(placement_json([(each, steps_of(each)) for each in placements]))
    if format is Format.TEXT or out is not None:
        _write(placements, files, out, told=format is Format.TEXT)
    if copy is not None:
        from verse_tray.tasks.place import folder_for

        _copy(out or folder_for(files), copy)
    grave = {worst(each.findings) for each in placements} & {Severity.ERROR, Severity.WARNING}
    reached = fail_on is not Threshold.NEVER and any(
        each.verdict.rank >= Verdict(fail_on.value).rank for each in placements
    )
    if fail_on is not Threshold.NEVER and (reached or grave):
        raise typer.Exit(ExitCode.FOUND)


def _write(placements: list[Placement], files: list[str], out: Path | None, *, told: bool) -> None:
    """Write what there is to paste, and say what goes where."""
    from verse_tray.cli.screen import console, hanging, note, show
    from verse_tray.reports.placement_text import placement_lines
    from verse_tray.tasks.place import folder_for, write_placements

    screen = console()
    for placement, steps, folder in write_placements(placements, out or folder_for(files)):
        if told:
            show(screen, [hanging(line, screen.width) for line in placement_lines(placement, steps, folder)])
        sheet = folder / "paste-sheet.html"
        note(f"Open {sheet} in a browser and work through it; page.html beside it is the page as it will be.")


def _copy(folder: Path, number: int) -> None:
    from verse_tray.cli.screen import note
    from verse_tray.tasks.clipboard import copy_text
    from verse_tray.tasks.place import text_of

    text = text_of(folder, number)
    copy_text(text)
    note(f"Paste {number} is on the clipboard: {len(text):,} characters.")
