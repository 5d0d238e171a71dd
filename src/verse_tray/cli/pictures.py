"""``verse-tray pictures``."""

from pathlib import Path
from typing import Annotated

import typer


def command(
    file: Annotated[
        str,
        typer.Argument(metavar="FILE", help="The piece, its sheet or its script; - is standard input."),
    ],
    hosted: Annotated[
        str | None,
        typer.Option(
            "--hosted", metavar="MAP", help="CSV with the columns file and address, or JSON: replace local paths by it."
        ),
    ] = None,
    scripts: Annotated[
        bool, typer.Option("--scripts", help="With --hosted: replace plain strings in scripts as well.")
    ] = False,
    folder: Annotated[
        Path | None,
        typer.Option(
            "--folder",
            metavar="FOLDER",
            exists=True,
            file_okay=False,
            help="Where local paths begin; those of a machine are found by their ends. Left out: the piece's own.",
        ),
    ] = None,
    out: Annotated[
        Path | None, typer.Option("-o", "--out", metavar="PATH", help="With --hosted: file to write to.")
    ] = None,
) -> None:
    """List the pictures of a piece with their sizes, or put hosted addresses in place of local paths everywhere.

    \b
    Examples:
      verse-tray pictures low-water-walk.html
      verse-tray pictures low-water-walk.html --hosted uploaded.csv -o hosted.html
      verse-tray pictures slots/2-styles.css --hosted uploaded.csv -o hosted.css
      verse-tray pictures low-water-walk.html --hosted uploaded.json | verse-tray check -
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, note, show, write_result
    from verse_tray.edit.hosted import local_paths
    from verse_tray.model.decoding import Source
    from verse_tray.model.phrasing import counted, listed
    from verse_tray.piece.piece import Piece
    from verse_tray.piece.subject import Subject
    from verse_tray.tasks.pictures import host_pictures, read_part

    piece, language = read_part(file)
    source = piece.source
    base = folder if folder is not None else Path(source.name).parent
    if hosted is None:
        from verse_tray.reports.picture_text import pictures_text

        screen = console()
        seek = folder is not None
        subject = Subject(Piece(Source("", file)) if language != "markup" else piece, folder=base)
        show(screen, pictures_text(subject, source, local_paths(piece, base, language, seek=seek), seek=seek))
        return
    replaced = host_pictures(piece, hosted, language, scripts=scripts or language == "script")
    note(f"Replaced {counted(replaced.count, 'path')}.")
    for path in replaced.left:
        line, column = source.place(path.span.start)
        why = "it stands in a script: --scripts replaces it" if path.in_script else f"{hosted} has no address for it"
        note(f"{source.name}:{line}:{column}: {path.path} is left: {why}.")
    if replaced.unused:
        note(f"{hosted}: nothing in {source.name} is {listed(list(replaced.unused), 8)}.")
    write_result(source.encode(replaced.text), out)
    if any(not path.in_script for path in replaced.left):
        raise typer.Exit(ExitCode.FOUND)
