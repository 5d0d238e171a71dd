"""``verse-tray verify``."""

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.verifying.verified import Verified


class VerifyFormat(StrEnum):
    """Forms of the report."""

    TEXT = "text"
    JSON = "json"
    JUNIT = "junit"


def command(
    piece: Annotated[
        str | None,
        typer.Argument(metavar="[PIECE]", help="The piece that was sent. Left out: all that was sent from here."),
    ] = None,
    editor: Annotated[
        str | None,
        typer.Option("--editor", metavar="NAME", help="Editor it went into: name (NAME:VARIANT), folder or TOML file."),
    ] = None,
    stored: Annotated[
        str | None, typer.Option("--stored", metavar="FILE", help="What the editor has stored; - is standard input.")
    ] = None,
    page: Annotated[
        str | None,
        typer.Option("--page", metavar="PAGE", help="The live page: a file with its source, -, or its address."),
    ] = None,
    before: Annotated[
        list[str] | None,
        typer.Option("--before", metavar="FILE", help="An earlier version; may be repeated, the latest first."),
    ] = None,
    ask_hosts: Annotated[
        bool, typer.Option("--ask-hosts", help="Ask the hosts of its scripts from elsewhere whether they answer.")
    ] = False,
    every: Annotated[bool, typer.Option("--every", help="Show every difference.")] = False,
    format: Annotated[VerifyFormat, typer.Option("--format", help="Form of the report.")] = VerifyFormat.TEXT,
) -> None:
    """Hold what is stored, and what the live page shows, against what was sent and what was predicted.

    The piece is found in the page by what it is. The exit code is 0 when all is as predicted, and 1 when something is
    otherwise: changed, lost, an old version, not there, there twice, hidden by the site's styles, shown as code. What
    send has sent is known: then the site itself is asked.

    \b
    Examples:
      verse-tray verify low-water-walk.html --editor blog-post --stored stored.html
      verse-tray verify low-water-walk.html --editor blog-post --page https://notes.example.org/low-water
      verse-tray verify low-water-walk.html --editor blog-post --page saved-page.html --before last-week.html
      verse-tray verify low-water-walk.html
      verse-tray verify --format junit
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, print_raw, show
    from verse_tray.reports.verify_text import verified_json, verified_junit, verified_text

    given = {"--editor": editor, "--stored": stored, "--page": page, "--before": before}
    named = [name for name, value in given.items() if value]
    found: list[Verified] = []
    if not named:
        from verse_tray.tasks.verify_sent import all_sent

        found += all_sent(piece, ask_hosts=ask_hosts)
    else:
        if piece is None:
            raise typer.BadParameter("name the piece that was sent", param_hint="PIECE")
        if editor is None:
            raise typer.BadParameter("name the editor that it was sent to", param_hint="--editor")
        if stored is None and page is None:
            raise typer.BadParameter("say what to hold it against: --stored, --page or both", param_hint="--stored")
        if [piece, stored, page].count("-") > 1:
            raise typer.BadParameter("only one of them can be standard input", param_hint="-")
        from verse_tray.tasks.verify import VerifyRequest, verify

        request = VerifyRequest(piece, editor, stored, page, tuple(before or ()), ask_hosts)
        found.append(verify(request))
    if format is VerifyFormat.JSON:
        print_raw(verified_json(found))
    elif format is VerifyFormat.JUNIT:
        print_raw(verified_junit(found))
    else:
        screen = console()
        for each in found:
            show(screen, verified_text(each, every=every))
    if any(each.is_unasked for each in found):
        raise typer.Exit(ExitCode.UNUSABLE)
    if not all(each.is_as_predicted for each in found):
        raise typer.Exit(ExitCode.FOUND)
