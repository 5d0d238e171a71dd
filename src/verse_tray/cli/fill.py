"""``verse-tray fill``."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.model.findings import Finding

_MOST_TOLD = 10
"""Records of which it is told what they lack; of the others, how many they are."""
_TOLD = 6


def command(
    file: Annotated[str, typer.Argument(metavar="FILE", help="The piece with marks; - is standard input.")],
    data: Annotated[
        str | None, typer.Option("--data", metavar="RECORDS", help="CSV with a header row, or JSON: a list of objects.")
    ] = None,
    set_: Annotated[
        list[str] | None,
        typer.Option("--set", metavar="FIELD=VALUE", help="One value; may be repeated, and wins over a file's."),
    ] = None,
    record: Annotated[
        str | None,
        typer.Option(
            "--record", metavar="NUMBER", help="The record to fill in, counted from 1, or FIELD=VALUE to find it by."
        ),
    ] = None,
    extremes: Annotated[
        bool,
        typer.Option(
            "--extremes", help="Only the records worth looking at: shortest, longest, incomplete, special signs."
        ),
    ] = False,
    mark: Annotated[
        str, typer.Option("--mark", metavar="FORM", help="Form of the marks, with NAME where the field's name stands.")
    ] = "{{NAME}}",
    blank: Annotated[
        bool, typer.Option("--blank", help="Leave nothing, and not the mark, where a value is missing.")
    ] = False,
    out: Annotated[
        Path | None,
        typer.Option(
            "-o", "--out", metavar="PATH", help="File to write to; for several records with {} or {FIELD} in its name."
        ),
    ] = None,
) -> None:
    """Fill the marks of a piece with values, each written for the place where it stands.

    \b
    Examples:
      verse-tray fill letter.html --data volunteers.csv --record 3
      verse-tray fill letter.html --data volunteers.csv -o 'letters/{name}.html'
      verse-tray fill letter.html --set name="Maren O'Tide" --mark '%%NAME%%' | verse-tray check -
      verse-tray fill letter.html --data volunteers.csv --extremes
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import note, print_bytes, with_progress
    from verse_tray.model.phrasing import listed
    from verse_tray.tasks.fill import Filling, FillRequest, fixed_values
    from verse_tray.tasks.outputs import write_whole

    values = fixed_values(set_ or [])
    filling = Filling(FillRequest(file, data, values, record, extremes, mark, blank, out))
    if not filling.template.marks:
        note(f"{file}: there is no mark of the form {mark} in it; it is passed on as it is.")
    for why, number in filling.worth_looking:
        note(f"record {number + 1}: {why}")
    if filling.unused:
        note(f"{data}: no mark asks for {listed(filling.unused, 8)}.")
    worst = False
    told, count = 0, len(filling.chosen)
    several = len(filling.records.rows) > 1
    for each in with_progress(filling.filled(), count, "Filling", 1_000):
        findings = each.filled.findings
        told += bool(findings)
        if told <= _MOST_TOLD:
            _tell(filling.template.source.name, findings, each.number if several else None)
        worst = worst or any(finding.severity.value != "note" for finding in findings)
        if each.path is None:
            if count > 1:
                print_bytes(f"{filling.heading(each.number)}\n".encode())
            print_bytes(each.data)
            if count > 1 and not each.data.endswith(b"\n"):
                print_bytes(b"\n")
        else:
            write_whole(each.path, each.data)
    if told > _MOST_TOLD:
        note(f"{told - _MOST_TOLD:,} more records lack something.")
    if out is not None:
        note(f"Wrote {count:,} file{'' if count == 1 else 's'}, the first to {filling.paths[0]}.")
    if worst:
        raise typer.Exit(ExitCode.FOUND)


def _tell(name: str, findings: "tuple[Finding, ...]", number: int | None) -> None:
    """Say on standard error what was missing in a record."""
    from verse_tray.cli.screen import note

    which = "" if number is None else f" (record {number + 1})"
    for finding in findings[:_TOLD]:
        note(
            f"{name}:{finding.line}:{finding.column}{which}: {finding.severity.value}: {finding.message} "
            f"[{finding.rule}]"
        )
    if len(findings) > _TOLD:
        note(f"{name}{which}: and {len(findings) - _TOLD} more.")
