"""``verse-tray fill``."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer


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
    from verse_tray.cli.files import note, print_bytes, read_piece, read_text, with_progress, write_whole
    from verse_tray.cli.filling import MOST_TOLD, fixed_values, named_outputs, record_number, tell
    from verse_tray.fields.fill import Template
    from verse_tray.fields.fill import extremes as find_extremes
    from verse_tray.fields.marks import mark_form
    from verse_tray.model.errors import InputError
    from verse_tray.tabular.records import Records, read_records

    template = Template(read_piece(file).source, mark_form(mark))
    values = fixed_values(set_ or [])
    if data is None:
        records = Records("--set", tuple(values), ({},), (0,))
    else:
        records = read_records(read_text(data), data)
    if not template.marks:
        note(f"{file}: there is no mark of the form {mark} in it; it is passed on as it is.")
    if extremes:
        found = find_extremes(template, records.rows)
        chosen = [number for _, number in found]
        for why, number in found:
            note(f"record {number + 1}: {why}")
    else:
        chosen = [record_number(record, records)] if record is not None else list(range(len(records.rows)))
    if len(chosen) > 1 and out is None and not extremes:
        raise InputError(
            f"{records.name} has {len(chosen):,} records. Choose one with --record NUMBER, or write one file each with "
            "-o 'folder/{}.html'; --extremes shows those worth looking at."
        )
    worst = False
    outputs = named_outputs(out, records, chosen, values) if out is not None else [None] * len(chosen)
    told = 0
    work = with_progress(zip(chosen, outputs, strict=True), len(chosen), "Filling", 1_000)
    for number, path in work:
        filled = template.fill({**records.rows[number], **values}, blank=blank)
        told += bool(filled.findings)
        if told <= MOST_TOLD:
            tell(template.source.name, filled, number if len(records.rows) > 1 else None)
        worst = worst or any(finding.severity.value != "note" for finding in filled.findings)
        encoded = template.source.encode(filled.text)
        if path is None:
            print_bytes(encoded)
        else:
            write_whole(path, encoded)
    if told > MOST_TOLD:
        note(f"{told - MOST_TOLD:,} more records lack something.")
    if out is not None:
        note(f"Wrote {len(chosen):,} file{'' if len(chosen) == 1 else 's'}, the first to {outputs[0]}.")
    if worst:
        raise typer.Exit(ExitCode.FOUND)
