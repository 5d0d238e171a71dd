"""Options that several commands share."""

from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.tasks.place import PlaceRequest


class Format(StrEnum):
    """Forms of what is printed."""

    TEXT = "text"
    JSON = "json"


class Threshold(StrEnum):
    """Verdicts from which on the exit code is 1, where something is done about them."""

    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"
    NEVER = "never"


Editors = Annotated[
    list[str] | None,
    typer.Option(
        "--editor",
        metavar="NAME",
        help="Editor by name, folder or TOML file, :VARIANT or :all behind it; may be repeated. Left out: all.",
    ),
]
Themes = Annotated[
    list[str] | None,
    typer.Option("--theme", metavar="NAME", help="Theme of the site, or all; may be repeated. Left out: the usual."),
]
Widths = Annotated[
    list[int] | None,
    typer.Option(
        "--width",
        min=120,
        max=4000,
        metavar="PIXELS",
        help="Width of the window; may be repeated. Left out: 1280 and 375.",
    ),
]
PictureFolders = Annotated[
    list[Path] | None,
    typer.Option(
        "--pictures",
        metavar="FOLDER",
        exists=True,
        file_okay=False,
        help="Folder with copies of the pictures, found by their file names; may be repeated.",
    ),
]
Data = Annotated[
    str | None,
    typer.Option("--data", metavar="RECORDS", help="CSV or JSON whose values fill the marks of the piece."),
]
Record = Annotated[
    str | None,
    typer.Option(
        "--record", metavar="NUMBER", help="With --data: the record, from 1 on, or FIELD=VALUE. Left out: the first."
    ),
]
Extremes = Annotated[
    bool,
    typer.Option("--extremes", help="With --data: each of the records worth looking at, in views of its own."),
]
Fit = Annotated[
    bool,
    typer.Option("--fit", help="Show beside it what readers get once the piece was fitted to the editor, as fit does."),
]
On = Annotated[
    list[str] | None,
    typer.Option(
        "--on",
        metavar="SITE:PAGE",
        help="Show it in this page of a site (name, folder or TOML file), placed as place does; may be repeated.",
    ),
]
Region = Annotated[
    list[str] | None,
    typer.Option("--region", metavar="NAME", help="With --on: region of the page; may be repeated."),
]
Position = Annotated[
    str, typer.Option("--position", metavar="PLACE", help="With --on: a number, before ITEM or after ITEM.")
]
Mark = Annotated[
    str, typer.Option("--mark", metavar="FORM", help="Form of the marks, with NAME where the field's name stands.")
]


def place_asked(
    files: tuple[str, ...], on: list[str] | None, region: list[str] | None, position: str, editor: list[str] | None
) -> "PlaceRequest | None":
    """Return where on a site pieces are to stand; None where no site is named."""
    if not on:
        if region or position:
            raise typer.BadParameter("goes with --on", param_hint="--region" if region else "--position")
        return None
    if editor:
        raise typer.BadParameter("a page of a site has editors of its own: leave --editor out", param_hint="--on")
    from verse_tray.tasks.place import PlaceRequest

    return PlaceRequest(files, tuple(on), tuple(region or ()), position)


def only_options(context: typer.Context, told: str, *allowed: str) -> None:
    """Refuse every option of the command line that has no part in what is asked for: none is ignored in silence.

    Args:
        context: What was asked for.
        told: What to do about one.
        allowed: Names of the parameters that may be given.
    """
    for parameter in context.command.params:
        name = parameter.name or ""
        source = context.get_parameter_source(name)
        given = source is not None and source.name == "COMMANDLINE"
        if given and parameter.param_type_name == "option" and name not in allowed:
            raise typer.BadParameter(told, param_hint=max(parameter.opts, key=len))


def needs_data(data: str | None, record: str | None, *, extremes: bool) -> None:
    """Refuse options that choose among records where there are none, or that contradict each other."""
    if extremes and record is not None:
        raise typer.BadParameter("chooses records of its own: leave --record out", param_hint="--extremes")
    if data is None and (extremes or record is not None):
        raise typer.BadParameter("goes with --data", param_hint="--extremes" if extremes else "--record")
