"""``verse-tray check``."""

from collections.abc import Iterable, Iterator, Sequence
from enum import StrEnum
from functools import partial
from typing import TYPE_CHECKING, Annotated

import typer
from msgspec import Struct

from verse_tray.reports.formats import FORMATS

if TYPE_CHECKING:
    from verse_tray.editors.load import Editor
    from verse_tray.piece.piece import Piece
    from verse_tray.reports.results import PieceResult

    Format = str
else:
    Format = StrEnum("Format", {name.upper(): name for name in FORMATS})

_TEXT = Format("text")
_LONG = 100_000  # signs of a piece that takes a second or more


class Threshold(StrEnum):
    """Verdicts from which on the exit code is 1."""

    INTACT = "intact"
    REWRITTEN = "rewritten"
    DAMAGED = "damaged"
    BROKEN = "broken"
    NEVER = "never"


def command(
    context: typer.Context,
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
    format: Annotated[Format, typer.Option("--format", help="Form of the report.")] = _TEXT,
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

    Without a file, the pieces of the tray in this folder are checked, as far as they have changed since.

    \b
    Examples:
      verse-tray check tide-table.html
      verse-tray check tide-table.html --editor course-page --every
      verse-tray check tide-table.html --editor none --fix --write
      verse-tray check *.html --format sarif --fail-on broken > report.sarif
      verse-tray check tide-table.html --editor course-page --render --theme all
      verse-tray check --explain links/in-link
      verse-tray check
    """
    from verse_tray.cli.exits import ExitCode

    if explain is not None:
        _explain(explain)
        return
    if not files:
        _check_tray(context, str(format), fail_on, every=every)
        return
    silenced = tuple(silence or ())
    if write and not fix:
        raise typer.BadParameter("goes with --fix", param_hint="--write")
    if fix and format is not _TEXT:
        raise typer.BadParameter("goes without --fix, which shows what it would mend as text", param_hint="--format")
    if fix:
        found = _fix(files, silenced, write=write)
        if found and not write and fail_on is not Threshold.NEVER:
            raise typer.Exit(ExitCode.FOUND)
        return
    if theme and not render:
        raise typer.BadParameter("goes with --render", param_hint="--theme")
    asked = _Asked(files, editor, silenced, reopened, region, theme, render, str(format), every, fail_on)
    if _report(asked):
        raise typer.Exit(ExitCode.FOUND)


def _check_tray(context: typer.Context, form: str, fail_on: Threshold, *, every: bool) -> None:
    """Check the tray of this folder."""
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.tray import check_tray, tray_asked
    from verse_tray.model.findings import Verdict

    tray_asked(context, "format", "fail_on", "every")
    if check_tray(form, None if fail_on is Threshold.NEVER else Verdict(fail_on.value), every=every):
        raise typer.Exit(ExitCode.FOUND)


class _Asked(Struct, frozen=True):
    """What the command was asked for."""

    files: list[str]
    editors: list[str] | None
    silenced: tuple[str, ...]
    reopened: int
    region: int | None
    themes: list[str] | None
    render: bool
    form: str
    every: bool
    fail_on: Threshold


def _report(asked: _Asked) -> bool:
    """Check files, print the report, and return whether the worst of them is at or above the threshold."""
    from verse_tray.cli.screen import console, print_raw, show, with_progress
    from verse_tray.editors.chosen import chosen_editors
    from verse_tray.model.findings import Verdict
    from verse_tray.reports.formats import Wanted, report_in
    from verse_tray.tasks.check import CheckRequest, check
    from verse_tray.tasks.files import read_piece
    from verse_tray.tasks.side_by_side import cores

    editors = tuple([] if asked.editors == ["none"] else chosen_editors(asked.editors))
    pieces = [read_piece(name) for name in asked.files]  # all of them first: a file that cannot be read ends it at once
    count = len(pieces)
    threshold = None if asked.fail_on is Threshold.NEVER else Verdict(asked.fail_on.value)
    request = CheckRequest(editors, asked.silenced, asked.reopened, asked.region, cores())
    worst = Verdict.INTACT

    def noted(results: "Iterable[PieceResult]") -> "Iterator[PieceResult]":
        nonlocal worst
        for result in results:
            worst = max(worst, result.worst, key=lambda verdict: verdict.rank)
            yield result

    browser = None
    if asked.render:
        from verse_tray.tasks.looking import looking

        browser = looking(editors, asked.themes, partial(report_in, asked.form))
    results = noted(check(_each_once(pieces), request, browser, partial(_progress, alone=count == 1)))
    report = report_in(asked.form)
    if asked.form == "text":
        screen = console()
        show(screen, report(results, Wanted(asked.every, screen.width, threshold)))
    else:
        print_raw(report(with_progress(results, count), Wanted(asked.every, threshold=threshold)))
    return threshold is not None and worst.rank >= threshold.rank


def _progress(editors: "Sequence[Editor]", piece: "Piece", *, alone: bool) -> "Iterable[Editor]":
    """Show how far a long piece has come, if there is no other."""
    from verse_tray.cli.screen import with_progress

    return with_progress(editors, len(editors) if alone and len(piece.source.text) > _LONG else 0, many=2)


def _each_once(pieces: "list[Piece]") -> "Iterator[Piece]":
    """Yield pieces, and hold none of them longer than it is worked on."""
    while pieces:
        yield pieces.pop(0)


def _explain(name: str) -> None:
    """Explain a rule, or list all of them for ``all``."""
    from verse_tray.checks.table import RULES, rule
    from verse_tray.cli.screen import console, show
    from verse_tray.reports.rule_text import rule_list, rule_text

    screen = console()
    show(screen, rule_list(RULES) if name == "all" else rule_text(name, rule(name)))


def _fix(files: list[str], silenced: tuple[str, ...], *, write: bool) -> bool:
    """Show what can be mended in files, or mend them; what comes from standard input goes to standard output.

    Returns:
        Whether there was anything to mend.
    """
    from verse_tray.cli.screen import console, note, print_bytes, show
    from verse_tray.reports.mend_text import mend_text
    from verse_tray.tasks.files import read_piece
    from verse_tray.tasks.fix import fix

    found = False
    for piece in [read_piece(name) for name in files]:
        name = piece.source.name
        fixed = fix(piece, silenced, write=write)
        count = len(fixed.mended.mended)
        found = found or bool(count)
        if not write:
            screen = console()
            show(screen, mend_text(fixed.source, fixed.mended))
        elif name == "-":
            print_bytes(fixed.data)
        elif count:
            note(f"{name}: {count} mended; as it was, it is kept in {fixed.kept}.")
        else:
            note(f"{name}: there is nothing to mend.")
    return found
