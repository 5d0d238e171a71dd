"""``verse-tray check``."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from typing import Annotated

import typer


class Format(StrEnum):
    """Forms of the report."""

    TEXT = "text"
    JSON = "json"
    SARIF = "sarif"


class Threshold(StrEnum):
    """Verdicts from which on the exit code is 1."""

    INTACT = "intact"
    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"
    NEVER = "never"


def command(
    files: Annotated[list[str], typer.Argument(metavar="FILE...", help="Files of HTML; - is standard input.")],
    editor: Annotated[
        list[str] | None,
        typer.Option(
            "--editor",
            metavar="NAME",
            help="Editor by name, folder or TOML file, :VARIANT or :all behind it; may be repeated. Left out: all.",
        ),
    ] = None,
    format: Annotated[Format, typer.Option("--format", help="Form of the report.")] = Format.TEXT,
    fail_on: Annotated[
        Threshold, typer.Option("--fail-on", help="Worst verdict that exits with 1.")
    ] = Threshold.DAMAGED,
    every: Annotated[bool, typer.Option("--every", help="Show every finding, not just the worst few.")] = False,
    reopened: Annotated[
        int,
        typer.Option("--reopened", min=0, max=50, help="How often it is opened in the visual pane and saved again."),
    ] = 1,
) -> None:
    """Tell which editors keep a piece, what is lost, and where.

    \b
    Examples:
      verse-tray check tide-table.html
      verse-tray check tide-table.html --editor course-page --every
      verse-tray check tide-table.html --editor course-page:all --reopened 3
      verse-tray check *.html --format sarif --fail-on broken > report.sarif
    """
    from verse_tray.checks import mistakes
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.files import chosen_editors, console, print_raw, read_piece, show, with_progress
    from verse_tray.journeys.engine import journey
    from verse_tray.model.findings import Verdict
    from verse_tray.reports.results import PieceResult

    editors = chosen_editors(editor)
    pieces = [read_piece(name) for name in files]  # all of them first: a file that cannot be read ends it at once
    worst = Verdict.INTACT

    def results() -> Iterator[PieceResult]:
        nonlocal worst
        while pieces:
            piece = pieces.pop(0)
            result = PieceResult(
                piece, mistakes(piece), tuple(journey(piece, each, reopened=reopened) for each in editors)
            )
            worst = max(worst, result.worst, key=lambda verdict: verdict.rank)
            yield result

    if format is Format.TEXT:
        from verse_tray.reports.check_text import check_text

        screen = console()
        show(screen, check_text(results(), every=every, width=screen.width))
    elif format is Format.JSON:
        from verse_tray.reports.as_json import check_json

        print_raw(check_json(with_progress(results(), len(files))))
    else:
        from verse_tray.reports.as_sarif import check_sarif

        print_raw(check_sarif(with_progress(results(), len(files))))
    if fail_on is not Threshold.NEVER and worst.rank >= Verdict(fail_on.value).rank:
        raise typer.Exit(ExitCode.FOUND)
