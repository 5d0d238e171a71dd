"""``verse-tray practise``."""

from pathlib import Path
from typing import Annotated

import typer


def command(
    into: Annotated[
        Path, typer.Option("--into", metavar="FOLDER", help="Folder that keeps everything; it is made if need be.")
    ] = Path("practice"),
    port: Annotated[
        int, typer.Option("--port", min=0, max=65535, help="Port of this machine; 0 for any that is free.")
    ] = 0,
    date: Annotated[
        str | None,
        typer.Option(
            "--date",
            metavar="YYYY-MM-DD",
            help="Which day it is there. Left out: the last before its blog gets another rule.",
        ),
    ] = None,
    scope: Annotated[
        list[str] | None,
        typer.Option("--scope", metavar="NAME", help="What the token may do; may be repeated. Left out: everything."),
    ] = None,
    new_token: Annotated[
        bool, typer.Option("--new-token", help="Make a new token; the old one lets nobody in.")
    ] = False,
) -> None:
    """Serve a small site of your own to practise on: editors to paste into, pages, Micropub and feeds.

    Only this machine can reach it. A token lets you sign in and lets send in; it is printed, and kept in the folder
    with private rights. Ctrl-C ends it; what was written stays in the folder.

    \b
    Examples:
      verse-tray practise
      verse-tray practise --into practice --port 8040
      verse-tray practise --date 2027-01-01
      verse-tray practise --scope create --scope media --new-token
    """  # fmt: skip
    from datetime import date as Date

    from verse_tray.cli.screen import note
    from verse_tray.model.errors import InputError
    from verse_tray.model.phrasing import as_argument, listed
    from verse_tray.tasks.practise import SCOPES, practise

    try:
        day = Date.fromisoformat(date) if date is not None else None
    except ValueError:
        raise InputError(f"--date {date}: a date is written as 2027-01-31.") from None
    wrong = [each for each in scope or () if each not in SCOPES]
    if wrong:
        raise InputError(f"--scope {wrong[0]}: there is no such scope. There are {listed(SCOPES, 9)}.")

    def told(address: str, token: str) -> None:
        name = as_argument(str(into))
        note(f"The practice site is at {address} until Ctrl-C. Sign in with the token {token}")
        note(f"Send to it from another terminal: verse-tray send piece.html --to {name}")

    practise(into, port, tuple(scope or ()), day, new_token=new_token, told=told)
    note("Stopped.")
