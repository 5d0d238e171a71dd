"""Every report, letter by letter: what differs is either a fault, or to be stored anew and read."""

from __future__ import annotations

from support.reports import FOLDER, reports, shown


def test_reports_are_those_that_were_read_and_stored() -> None:
    made = {name: shown(report, name) for name, report in reports()}
    stored = {path.stem: path.read_bytes().decode("utf-8") for path in FOLDER.glob("*.txt")}
    assert made.keys() == stored.keys(), "run: python tests/support/reports.py, and read what changes"
    for name, text in made.items():
        assert text == stored[name], name
