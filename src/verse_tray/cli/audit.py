"""``verse-tray audit``."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.options import Editors, Format, Threshold

if TYPE_CHECKING:
    from verse_tray.tasks.audit import AuditRequest, Tally


def command(
    sources: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="SOURCE...",
            help="Folder or pattern of HTML files, feed (Atom, RSS, JSON Feed), CSV, JSON Lines or SQLite. "
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
    export: Annotated[
        Path | None, typer.Option("--export", metavar="OUT.csv", help="Write a row for each piece and editor, as CSV.")
    ] = None,
    workers: Annotated[
        int,
        typer.Option("--workers", min=0, max=256, help="Processes that work at once; 0: as many as cores."),
    ] = 0,
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
      verse-tray audit --export audit.csv
    """  # fmt: skip
    import os

    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, note, print_raw, show, write_result
    from verse_tray.model.errors import InputError
    from verse_tray.model.phrasing import counted
    from verse_tray.reports.audit_text import audit_csv, audit_json, audit_text
    from verse_tray.tasks.audit import AuditRequest
    from verse_tray.tasks.audit_answers import answers

    if export is not None and export.suffix.lower() != ".csv":
        raise typer.BadParameter("a name that ends in .csv was expected", param_hint="--export")
    if sources:
        cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
        request = AuditRequest(
            tuple(sources), tuple(editor or ()), str(into), workers or cores, column, table, longest, memory
        )
        tally = _audited(request)
        gone = f"; {counted(tally.gone, 'piece')} gone from their source" if tally.gone else ""
        note(f"{counted(tally.pieces, 'piece')}: {tally.held:,} held, {tally.known:,} known already{gone}.")
    elif not into.is_file():
        raise InputError(f"{into}: there is no such store. Name sources to audit, or the store with --into.")
    elif editor:
        raise typer.BadParameter("goes with sources; use --where editor=NAME", param_hint="--editor")
    whole = every or bool(where) or export is not None or format is Format.JSON
    found = answers(into, where, against, every=whole)
    if export is not None:
        write_result(audit_csv(found.worst), export)
    if format is Format.JSON:
        print_raw(audit_json(found))
    else:
        show(console(), audit_text(found, every=every or bool(where)))
    bad = ("broken", "set-aside", "damaged", "rewritten")[
        : {"broken": 2, "damaged": 3, "rewritten": 4}.get(fail_on.value, 0)
    ]
    if any(each.counts.get(verdict) for each in found.verdicts for verdict in bad):
        raise typer.Exit(ExitCode.FOUND)


def _audited(request: AuditRequest) -> Tally:
    """Audit, with a progress line on a terminal."""
    import sys

    from verse_tray.tasks.audit import audit

    if not sys.stderr.isatty():
        return audit(request)
    from rich.console import Console
    from rich.progress import Progress, SpinnerColumn, TextColumn, TimeElapsedColumn

    columns = (SpinnerColumn(), TextColumn("{task.description}"), TimeElapsedColumn())
    with Progress(*columns, console=Console(stderr=True), transient=True) as progress:
        shown = progress.add_task("Auditing")

        def going(tally: Tally) -> None:
            elapsed = progress.tasks[0].elapsed or 0.0
            rate = f", {tally.held / elapsed:.0f} a second" if elapsed > 1 and tally.held else ""
            progress.update(shown, description=f"Auditing: {tally.pieces:,} pieces come by, {tally.held:,} held{rate}")

        return audit(request, going)
