"""Every report, letter by letter: what differs is either a fault, or to be stored anew and read."""

from __future__ import annotations

from support.editors import editor
from support.reports import FOLDER, reports, shown
from verse_tray.checks.find import Found
from verse_tray.journeys.journey import journey
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity
from verse_tray.piece.piece import Piece
from verse_tray.preview.measuring.render import Rendered
from verse_tray.reports.results import PieceResult
from verse_tray.reports.signs import visible


def test_reports_are_those_that_were_read_and_stored() -> None:
    made = {name: shown(report, name) for name, report in reports()}
    stored = {path.stem: path.read_bytes().decode("utf-8") for path in FOLDER.glob("*.txt")}
    assert made.keys() == stored.keys(), "run: python tests/support/reports.py, and read what changes"
    for name, text in made.items():
        assert text == stored[name], name


def test_signs_that_steer_a_terminal_are_shown() -> None:
    assert visible("a\x80\x9f\x7f\x00\x1b\n\t\xa0\udc80\udcff") == "a\ufffd\ufffd␡␀␛\n\t\xa0\\x80\\xff"


def test_a_result_counts_for_its_worst() -> None:
    piece, into = Piece(Source("<p>x</p>", "x.html")), editor({"removeElements": ["b"]})
    told = {severity: Found(Finding("r/x", "written", "m", 1, 1, severity), ()) for severity in Severity}
    seen = Rendered({Finding("render/x", "publish", "m", 1, 1, Severity.WARNING): 1}, {})
    made = journey(piece, into)
    gone = journey("<b>x</b>", into)
    for result, worst in (
        (PieceResult(piece, (), ()), "intact"),
        (PieceResult(piece, (told[Severity.NOTE],), ()), "intact"),
        (PieceResult(piece, (told[Severity.WARNING], told[Severity.NOTE]), (made,)), "rewritten"),
        (PieceResult(piece, (told[Severity.WARNING], told[Severity.ERROR]), (made,)), "damaged"),
        (PieceResult(piece, (), (made,), {"test": seen}), "rewritten"),
        (PieceResult(piece, (), (), {"": seen}), "rewritten"),
        (PieceResult(piece, (told[Severity.ERROR],), (made, gone)), "broken"),
    ):
        assert result.worst == worst
        assert len(result.mistakes) == len(result.found) + len(result.noticed(""))
    assert PieceResult(piece, (told[Severity.ERROR],), (made,)).verdict(made) == "intact"
