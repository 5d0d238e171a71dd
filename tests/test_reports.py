"""Every report, letter by letter: what differs is either a fault, or to be stored anew and read."""

from __future__ import annotations

import io
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st
from rich.console import Console

from support.editors import editor
from support.program import run
from support.reports import FOLDER, reports, shown
from verse_tray.checks.find import Found
from verse_tray.journeys.journey import journey
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity
from verse_tray.piece.piece import Piece
from verse_tray.preview.measuring.render import Rendered
from verse_tray.reports.results import PieceResult
from verse_tray.reports.signs import visible
from verse_tray.reports.text_layout import Rows, Words


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


_WORDS = st.one_of(st.text("ab-./,", min_size=1, max_size=14), st.sampled_from(["“x”", "a" * 40, "é", "…→×", "", " "]))
_ODD = st.sampled_from(["🦀", "日", "e\u0301", "\u00ad", "\t", "\x07", "\xa0", "\u1160", "\n"])
_LINES = st.lists(st.one_of(*[_WORDS] * 9, _ODD), max_size=14).map(" ".join)
_CELLS = st.text("ab ", max_size=9).map(str.rstrip)


def _by_library(part: Words | Rows, width: int, *, soft_wrap: bool = False) -> str:
    console = Console(file=(out := io.StringIO()), width=width, highlight=False, markup=False, emoji=False, _environ={})
    console.print(part, soft_wrap=soft_wrap)
    return out.getvalue()


@given(_LINES, st.booleans(), st.integers(20, 60))
def test_plain_texts_stand_as_the_library_would_have_them(line: str, wrapped: bool, width: int) -> None:
    words = Words(line[:3], (line[3:], "bold red"), wrapped=wrapped)
    assert words.plain(width) in (None, _by_library(words, width, soft_wrap=not wrapped))


@given(
    st.integers(2, 4).flatmap(
        lambda count: st.lists(st.tuples(*[_CELLS] * (count - 1), _LINES), min_size=1, max_size=4)
    ),
    st.none() | st.lists(st.text("ab", max_size=9), min_size=4, max_size=4),
    st.booleans(),
    st.booleans(),
    st.integers(20, 60),
)
def test_plain_columns_stand_as_the_library_would_have_them(
    rows: list[tuple[str, ...]], named: list[str] | None, is_right: bool, is_folded: bool, width: int
) -> None:
    texts = [[Words(cell) for cell in row] for row in rows]
    columns = Rows(texts, (named or [])[: len(rows[0])], is_right=is_right, is_folded=is_folded)
    assert columns.plain(width) in (None, _by_library(columns, width))


def test_what_is_plain_is_laid_out_without_the_library(folder: Path) -> None:
    words = Words("  “a” ", ("bcd…", "bold"), " efghi\n", wrapped=True)
    assert words.plain(10) == "  “a” bcd…\nefghi\n\n"
    rows = [(Words("1:2"), Words("  error "), Words("a long message")), (Words(""), Words(), Words("b"))]
    told = "1:2  error a long    \n           message   \n           b         \n"
    assert Rows(rows, is_right=True, is_folded=True).plain(21) == told
    assert Rows(rows).plain(21) is Rows(rows, is_folded=True).plain(18) is Words("🦀").plain(40) is None
    arguments = ("check", "piece.html", "--editor", "course-page", "--editor", "mail-signoff", "--every")
    plain = run(*arguments, cwd=folder, COLUMNS="64").stdout
    assert plain and plain == run(*arguments, cwd=folder, COLUMNS="64", TTY_COMPATIBLE="0").stdout
