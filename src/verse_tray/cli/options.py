"""Options that several commands share."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

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
