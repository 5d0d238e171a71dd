"""``verse-tray check``."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import ExitStack
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.cli.looking import Look
    from verse_tray.editors.load import Editor
    from verse_tray.model.findings import Verdict
    from verse_tray.piece.subject import Theme
    from verse_tray.reports.results import PieceResult


class Format(StrEnum):
    """Forms of the report."""

    TEXT = "text"
    JSON = "json"
    SARIF = "sarif"
    JUNIT = "junit"


class Threshold(StrEnum):
    """Verdicts from which on the exit code is 1."""

    INTACT = "intact"
    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"
    NEVER = "never"


def command(
    files: Annotated[
        list[str] | None, typer.Argument(metavar="FILE...", help="Files of HTML; - is standard input.")
    ] = None,
    editor: Annotated[
        list[str] | None,
        typer.Option(
            "--editor",
            metavar="NAME",
            help="Editor by name, folder or TOML file, :VARIANT or :all behind it; may be repeated; none for the "
            "mistakes alone. Left out: all.",
        ),
    ] = None,
    format: Annotated[Format, typer.Option("--format", help="Form of the report.")] = Format.TEXT,
    fail_on: Annotated[
        Threshold,
        typer.Option(
            "--fail-on", help="Worst verdict that exits with 1; an error in the piece itself counts as damaged."
        ),
    ] = Threshold.DAMAGED,
    every: Annotated[bool, typer.Option("--every", help="Show every finding, not just the worst few.")] = False,
    reopened: Annotated[
        int,
        typer.Option("--reopened", min=0, max=50, help="How often it is opened in the visual pane and saved again."),
    ] = 1,
    region: Annotated[
        int | None,
        typer.Option("--region", metavar="PIXELS", min=1, help="Width of the region that will hold the piece."),
    ] = None,
    silence: Annotated[
        list[str] | None,
        typer.Option(
            "--silence", metavar="RULE", help="A rule about mistakes that is not to look; may be repeated; or all."
        ),
    ] = None,
    render: Annotated[
        bool,
        typer.Option("--render", help="Look at it in a browser too: what sticks out, is squeezed, cannot be read."),
    ] = False,
    theme: Annotated[
        list[str] | None,
        typer.Option(
            "--theme",
            metavar="NAME",
            help="With --render: theme of the site, or all; may be repeated. Left out: the usual.",
        ),
    ] = None,
    fix: Annotated[
        bool, typer.Option("--fix", help="Show what can be mended with certainty, and change nothing.")
    ] = False,
    write: Annotated[
        bool,
        typer.Option("--write", help="With --fix: mend the files, and keep each as it was beside it, as NAME.bak."),
    ] = False,
    explain: Annotated[
        str | None,
        typer.Option("--explain", metavar="RULE", help="Explain a rule about mistakes, or list all of them."),
    ] = None,
) -> None:
    """Tell what is wrong with a piece, which editors keep it, what is lost, and where.

    \b
    Examples:
      verse-tray check tide-table.html
      verse-tray check tide-table.html --editor course-page --every
      verse-tray check tide-table.html --editor none --fix --write
      verse-tray check *.html --format sarif --fail-on broken > report.sarif
      verse-tray check tide-table.html --editor course-page --render --theme all
      verse-tray check --explain links/in-link
    """
    from verse_tray.cli.exits import ExitCode

    if explain is not None:
        from verse_tray.cli.explaining import explain_rule

        explain_rule(explain)
        return
    if not files:
        raise typer.BadParameter("give at least one file of HTML, or - for standard input", param_hint="FILE...")
    silenced = tuple(silence or ())
    if fix or write:
        from verse_tray.cli.fixing import fix_files

        found = fix_files(files, silenced, write=write)
        if found and not write and fail_on is not Threshold.NEVER:
            raise typer.Exit(ExitCode.FOUND)
        return
    from verse_tray.checks import find
    from verse_tray.cli.files import chosen_editors, read_piece
    from verse_tray.journeys.journey import journey
    from verse_tray.model.findings import Verdict
    from verse_tray.reports.results import PieceResult

    editors = [] if editor == ["none"] else chosen_editors(editor)
    if theme and not render:
        raise typer.BadParameter("goes with --render", param_hint="--theme")
    themes = tuple(_theme(each) for each in editors if each.profile.box is None)  # no site's look reaches into a frame
    pieces = [read_piece(name) for name in files]  # all of them first: a file that cannot be read ends it at once
    worst = Verdict.INTACT
    look: Look | None = None

    def results() -> Iterator[PieceResult]:
        nonlocal worst
        while pieces:
            piece = pieces.pop(0)
            folder = Path(piece.source.name).parent
            found = find(piece, silenced=silenced, themes=themes, region=region, folder=folder)
            journeys = tuple(journey(piece, each, reopened=reopened) for each in editors)
            result = PieceResult(piece, found, journeys, look(piece, journeys) if look else {})
            worst = max(worst, result.worst, key=lambda verdict: verdict.rank)
            yield result

    threshold = None if fail_on is Threshold.NEVER else Verdict(fail_on.value)
    with ExitStack() as stack:
        if render:
            from verse_tray.cli.looking import looking

            look = stack.enter_context(looking(editors, theme))
        _report(format, results(), len(files), every=every, threshold=threshold)
    if threshold is not None and worst.rank >= threshold.rank:
        raise typer.Exit(ExitCode.FOUND)


def _report(
    format: Format, results: Iterator[PieceResult], count: int, *, every: bool, threshold: Verdict | None
) -> None:
    from verse_tray.cli.files import console, print_raw, show, with_progress

    if format is Format.TEXT:
        from verse_tray.reports.check_text import check_text

        screen = console()
        show(screen, check_text(results, every=every, width=screen.width))
    elif format is Format.JSON:
        from verse_tray.reports.check_json import check_json

        print_raw(check_json(with_progress(results, count)))
    elif format is Format.SARIF:
        from verse_tray.reports.check_sarif import check_sarif

        print_raw(check_sarif(with_progress(results, count)))
    else:
        from verse_tray.reports.check_junit import check_junit

        print_raw(check_junit(with_progress(results, count), threshold))


def _theme(editor: Editor) -> Theme:
    from verse_tray.piece.subject import Theme

    return Theme(editor.name, editor.frame, editor.theme)
