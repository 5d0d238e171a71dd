"""``verse-tray send``."""

from typing import Annotated

import typer

from verse_tray.cli.options import Format


def command(
    piece: Annotated[str, typer.Argument(metavar="PIECE", help="File of HTML, or a piece of the tray in this folder.")],
    to: Annotated[
        str,
        typer.Option(
            "--to", metavar="SITE", help="A site of the tray's, or a site by name, folder or TOML file, with [sending]."
        ),
    ],
    publish: Annotated[
        bool | None,
        typer.Option("--publish/--draft", help="For readers at once, or as a draft. Left out: a draft, or as it was."),
    ] = None,
    title: Annotated[
        str | None, typer.Option("--title", metavar="TEXT", help="Its title. Left out: its first heading.")
    ] = None,
    as_written: Annotated[bool, typer.Option("--as-written", help="Send it as it is, without fitting it.")] = False,
    anyway: Annotated[
        bool,
        typer.Option("--anyway", help="Send it although a file is missing or somebody changed what is there."),
    ] = False,
    dry_run: Annotated[bool, typer.Option("--dry-run", help="Show the requests, and send nothing.")] = False,
    format: Annotated[Format, typer.Option("--format", help="Form of what is printed.")] = Format.TEXT,
) -> None:
    """Send a piece to a site over Micropub: pictures first, then the piece, fitted to the site's editor.

    It is remembered beside the piece what was sent where, so that the next time the same post is updated, and only
    where nobody has changed it since. The page's address is printed. Where a connection breaks off, the next run looks
    for the piece before it sends it again.

    \b
    Examples:
      verse-tray send low-water-walk.html --to practice
      verse-tray send low-water-walk.html --to practice --publish
      verse-tray send low-water-walk.html --to practice --dry-run
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import note, print_raw
    from verse_tray.reports.send_text import outcome_json, outcome_lines
    from verse_tray.tasks.send import Refusal, Sender, SendRequest

    state = None if publish is None else "published" if publish else "draft"
    sender = Sender(SendRequest(piece, to, state, title, as_written, anyway), note)
    if dry_run:
        for what, why in sender.requests():
            print_raw(f"{what}  {why}\n")
        return
    try:
        outcome = sender.send()
    except Refusal as refusal:
        note(f"verse-tray: {refusal}")
        raise typer.Exit(ExitCode.FOUND) from None
    for line in outcome_lines(outcome, piece):
        note(line)
    print_raw(outcome_json(outcome) if format is Format.JSON else outcome.sent.address + "\n")
    if not outcome.is_as_predicted:
        raise typer.Exit(ExitCode.FOUND)
