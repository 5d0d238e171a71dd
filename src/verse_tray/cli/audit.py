"""``verse-tray audit``."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.options import Editors, Format, Threshold

if TYPE_CHECKING:
    from rich.progress import Progress, TaskID

    from verse_tray.tasks.audit import AuditRequest, Tally


def command(
    sources: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="SOURCE...",
            help="Folder or pattern of HTML files, feed (Atom, RSS, JSON Feed), CSV, JSON Lines, SQLite or Parquet. "
            "Left out: what the store holds already is shown.",
        ),
    ] = None,
    editor: Editors = None,
    into: Annotated[
        Path,
        typer.Option("--into", metavar="STORE", help="SQLite file that keeps what is found; made if need be."),
    ] = Path("audit.sqlite"),
    column: Annotated[
        str | None,
        typer.Option("--column", metavar="NAME", help="Column of markup, in tables and databases."),
    ] = None,
    table: Annotated[str | None, typer.Option("--table", metavar="NAME", help="Table of a database.")] = None,
    where: Annotated[
        str,
        typer.Option("--where", metavar="FILTER", help="Only these, such as 'verdict=broken and editor=article'."),
    ] = "",
    every: Annotated[bool, typer.Option("--every", help="Show every piece and rule, not just the worst few.")] = False,
    against: Annotated[
        Path | None,
        typer.Option("--against", metavar="STORE", exists=True, dir_okay=False, help="An older store: what is new?"),
    ] = None,
    was: Annotated[
        str | None,
        typer.Option(
            "--was",
            metavar="NAME",
            help="The one editor as it was, by name, folder or TOML file: what is new?",
        ),
    ] = None,
    export: Annotated[
        Path | None,
        typer.Option(
            "--export", metavar="OUT", help="Write a row for each piece and editor, as CSV or Parquet by its ending."
        ),
    ] = None,
    report: Annotated[
        Path | None,
        typer.Option("--report", metavar="OUT.html", help="Write a page with a heat map and the sizes, to look at."),
    ] = None,
    site: Annotated[
        str | None,
        typer.Option(
            "--site", metavar="SITE", help="A site, as send knows it, whose posts are asked for over Micropub."
        ),
    ] = None,
    trial: Annotated[
        int,
        typer.Option(
            "--try",
            metavar="COUNT",
            min=0,
            max=1000,
            help="Fit so many of the pieces of each rule shown, and say how many that saves.",
        ),
    ] = 0,
    workers: Annotated[
        int,
        typer.Option("--workers", min=0, max=256, help="Processes that work at once; 0: as many as cores."),
    ] = 0,
    cluster: Annotated[
        str | None,
        typer.Option(
            "--cluster", metavar="SCHEDULER", help="Have a cluster do the work: address or file of a Dask scheduler."
        ),
    ] = None,
    longest: Annotated[
        float, typer.Option("--longest", min=0.1, max=3600, help="Seconds after which a piece is set aside.")
    ] = 20.0,
    memory: Annotated[
        int, typer.Option("--memory", min=50, max=100_000, help="Megabytes above which a piece is set aside.")
    ] = 500,
    format: Annotated[Format, typer.Option("--format", help="Form of the report.")] = Format.TEXT,
    fail_on: Annotated[
        Threshold, typer.Option("--fail-on", help="Verdict from which on the exit code is 1.")
    ] = Threshold.DAMAGED,
) -> None:
    """Hold a whole archive against editors: which pieces will lose what, and what hurts most of them?

    What is found is kept in a store as it comes: a run that was ended goes on where it was, and what has not changed is
    not worked out again. Fields of a filter: verdict, editor, name, source, address, date, size, stored, alike, full
    (percent of a limit), rule; signs: = != < > <= >= and ~ for "holds".

    \b
    Examples:
      verse-tray audit posts/ --editor course-page
      verse-tray audit blog.atom export.csv --column body --editor all --into audit.sqlite
      verse-tray audit --where 'verdict=broken and rule~scripts' --every
      verse-tray audit posts/ --editor ./our-blog --into new.sqlite --against march.sqlite
      verse-tray audit posts/ --editor ./our-blog --was ./our-blog-in-march
      verse-tray audit --try 10 --export audit.csv --report audit.html
      verse-tray audit posts.parquet --editor article --cluster tcp://10.0.0.5:8786
    """  # fmt: skip
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, note, print_raw, progress_told, show, write_result
    from verse_tray.model.errors import InputError
    from verse_tray.reports.audit_text import audit_json, audit_text
    from verse_tray.tasks.audit_answers import answers, page, see_ready

    if export is not None and export.suffix.lower() not in (".csv", ".parquet"):
        raise typer.BadParameter("a name that ends in .csv or .parquet was expected", param_hint="--export")
    if sources or site is not None:
        from verse_tray.tasks.audit import AuditRequest, sources_of
        from verse_tray.tasks.side_by_side import cores

        request = AuditRequest(
            tuple(sources or ()), tuple(editor or ()), str(into), workers or cores(), column, table, longest, memory,
            site, cluster,
        )  # fmt: skip
        see_ready(into, sources_of(request), where, against, export, report)
        if was is not None:
            against = _as_it_was(request, was, against)
        _audited(request)
    elif not into.is_file():
        raise InputError(f"{into}: there is no such store. Name sources to audit, or the store with --into.")
    elif editor or was is not None or cluster is not None:
        raise typer.BadParameter("goes with sources; use --where editor=NAME", param_hint="--editor, --was, --cluster")
    else:
        see_ready(into, (), where, against, export, report)
    whole = every or bool(where) or export is not None or format is Format.JSON
    found = answers(into, where, against, rows=whole, rules=every or bool(where))
    if trial:
        from verse_tray.tasks.audit_trial import tried

        shown = found.saved.rules
        with progress_told("Trying") as going:
            found.causes[:shown], unread = tried(into, found.causes[:shown], where, trial, workers, going)
        for each in unread:
            note(f"verse-tray: {each} Pieces of other sources were tried.")
    if export is not None:
        from verse_tray.reports.audit_table import audit_table

        write_result(audit_table(found.worst, export.suffix.lower()), export)
    if report is not None:
        write_result(page(into, where, found), report)
    if format is Format.JSON:
        print_raw(audit_json(found))
    else:
        show(console(), audit_text(found, every=every or bool(where)))
    bad = ("broken", "set-aside", "damaged", "rewritten")[
        : {"broken": 2, "damaged": 3, "rewritten": 4}.get(fail_on.value, 0)
    ]
    if any(each.counts.get(verdict) for each in found.verdicts for verdict in bad):
        raise typer.Exit(ExitCode.FOUND)


def _as_it_was(request: "AuditRequest", was: str, against: Path | None) -> Path:
    """Audit the editor as it was, under its present name, into a store beside; return that."""
    from msgspec.structs import replace

    from verse_tray.cli.screen import note
    from verse_tray.editors.load import load_editor

    if len(request.editors) != 1 or request.editors[0].rpartition(":")[2] == "all" or against is not None:
        raise typer.BadParameter(
            "goes with one --editor, whose earlier description it is, and without --against", param_hint="--was"
        )
    beside = Path(request.into).with_suffix(".was.sqlite")
    note(f"As {was} has it, kept in {beside}:")
    _audited(replace(request, editors=(was,), into=str(beside), called=load_editor(request.editors[0]).name))
    return beside


def _audited(request: "AuditRequest") -> None:
    """Audit, with a progress bar on a terminal, and say what was done."""
    import sys
    from functools import partial

    from verse_tray.cli.screen import note
    from verse_tray.model.phrasing import counted
    from verse_tray.tasks.audit import audit

    if not sys.stderr.isatty():
        tally = audit(request)
    else:
        from rich.console import Console
        from rich.progress import BarColumn, Progress, TaskProgressColumn, TextColumn, TimeRemainingColumn

        columns = (
            TextColumn("{task.description}"), BarColumn(), TaskProgressColumn(), TimeRemainingColumn(),
            TextColumn("left"),
        )  # fmt: skip
        with Progress(*columns, console=Console(stderr=True), transient=True, speed_estimate_period=60) as progress:
            tally = audit(request, partial(_going, progress, progress.add_task("Auditing", total=1.0)))
    gone = f"; {counted(tally.gone, 'piece')} gone from their source" if tally.gone else ""
    note(f"{counted(tally.pieces, 'piece')}: {tally.held:,} held, {tally.known:,} known already{gone}.")


def _going(progress: "Progress", shown: "TaskID", tally: "Tally") -> None:
    """Show how far an audit is, and how fast it goes."""
    elapsed = progress.tasks[0].elapsed or 0.0
    rate = f", {tally.held / elapsed:.0f} a second" if elapsed > 1 and tally.held else ""
    told = f"Auditing: {tally.held:,} held{rate}"
    progress.update(shown, description=told, completed=tally.done)
