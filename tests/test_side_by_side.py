"""Works done at the same time come to what they come to one after the other, whatever becomes of a process."""

from __future__ import annotations

import gc
import os
import signal
import subprocess
import sys
import threading
import time
import weakref
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from pathlib import Path

import pytest

from verse_tray.checks.find import mistakes
from verse_tray.demo import example
from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.load import Editor
from verse_tray.fitting.fit import fit, fit_together
from verse_tray.journeys.journey import Journey, journey
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.reports.formats import Wanted, report_in
from verse_tray.tasks.check import CheckRequest, check
from verse_tray.tasks.fit import FitRequest, fit_piece
from verse_tray.tasks.loading import loading
from verse_tray.tasks.preview import Outputs, Preview, PreviewRequest
from verse_tray.tasks.side_by_side import SideBySide

HERE = os.getpid()


@pytest.fixture(autouse=True)
def _alone() -> None:
    """Wait for threads of tests before to end: beside others, nothing is forked."""
    until = time.monotonic() + 20
    while threading.active_count() > 1 and time.monotonic() < until:
        time.sleep(0.02)
    assert threading.active_count() == 1, threading.enumerate()


def squared(number: int) -> tuple[int, bool]:
    """Return a result, large enough to fill a pipe, and whether it came from another process."""
    return number * number * 10**200_000, os.getpid() != HERE


def lost(how: Callable[[], object]) -> str:
    """Lose a process; here, return that it was done here."""
    if os.getpid() != HERE:
        how()
    return "here"


@pytest.mark.parametrize(("processes", "works"), [(1, 7), (2, 7), (4, 3), (3, 12_000), (2, 0), (2, 1)])
def test_works_come_to_the_same(processes: int, works: int) -> None:
    large = works < 100
    asked = [partial(squared, each) if large else partial(pow, each, 2) for each in range(works)]
    with SideBySide[object](asked, processes) as begun:
        found = [begun.result(each) for each in reversed(range(works))]
    elsewhere = processes > 1 and works > 1
    assert found == [
        (each * each * 10**200_000, elsewhere) if large else each * each for each in reversed(range(works))
    ]


@pytest.mark.parametrize(
    "how",
    [
        lambda: os.kill(os.getpid(), signal.SIGKILL),
        lambda: os._exit(7),
        lambda: exec("raise SystemExit(3)"),
        lambda: exec("raise MemoryError"),
        lambda: os.closerange(3, 200),
    ],
)
def test_what_a_process_is_lost_with_is_done_here(how: Callable[[], object]) -> None:
    with SideBySide([partial(lost, how), *[partial(str, each) for each in range(9)]], 2) as begun:
        assert [begun.result(each) for each in range(10)] == ["here", *map(str, range(9))]


def test_an_error_of_a_work_is_raised_where_it_is_asked_for() -> None:
    with SideBySide([partial(int, "1"), partial(int, "low water"), partial(int, "3")], 2) as begun:
        assert begun.result(0) == 1
        with pytest.raises(ValueError, match="low water"):
            begun.result(1)
        assert begun.result(2) == 3


def test_nothing_is_at_work_when_the_block_has_ended(monkeypatch: pytest.MonkeyPatch) -> None:
    children, fork = list[int](), os.fork

    def forked() -> int:
        child = fork()
        children.append(child)
        return child

    monkeypatch.setattr(os, "fork", forked)
    began = time.monotonic()
    with suppress(KeyboardInterrupt), SideBySide([partial(time.sleep, 60)] * 3, 3):
        raise KeyboardInterrupt
    SideBySide([partial(time.sleep, 60)] * 2, 2)
    assert len(children) == 5
    for child in children:
        with pytest.raises(ChildProcessError):
            os.waitpid(child, os.WNOHANG)
    assert time.monotonic() - began < 20


def test_processes_end_soon_after_the_one_that_began_them(tmp_path: Path) -> None:
    script = (
        "import os, sys, time\nfrom verse_tray.tasks.side_by_side import SideBySide\n"
        "def work():\n    os.write(1, b'%d\\n' % os.getpid())\n    while True: pass\n"
        "SideBySide([work, work], 2).result(0)\n"
    )
    with subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, text=True) as parent:
        assert parent.stdout is not None
        try:
            children = [int(parent.stdout.readline()) for _ in range(2)]
        finally:
            parent.kill()
    until = time.monotonic() + 20
    while any(map(_runs, children)) and time.monotonic() < until:
        time.sleep(0.1)
    assert not any(map(_runs, children))


def _runs(process: int) -> bool:
    """Tell whether a process is at work: one that has ended may wait for somebody to take note of it."""
    try:
        return "\nState:\tZ" not in Path(f"/proc/{process}/status").read_text("ascii")
    except OSError:
        return False


@pytest.mark.usefixtures("unwatched")
def test_a_check_and_a_fit_say_the_same() -> None:
    names = ("article", "course-page", "code-box", "note-field")
    editors = tuple(chosen_editors(names))
    demo = {path.name: data.decode() for path, data in example().items() if path.suffix == ".html"}
    pieces = [Piece(Source(3 * text, name)) for name, text in demo.items()][:4]
    assert sum(len(each.source.text) for each in pieces) * len(editors) > 40_000, "else no further process begins"
    requests = [CheckRequest(editors, processes=each) for each in (1, 2)]
    told = ["".join(map(str, report_in("json")(check(list(pieces), each), Wanted(True)))) for each in requests]
    assert told[0] == told[1] and len(told[0]) > 10_000
    asked = [FitRequest(names, processes=each) for each in (1, 2)]
    fits = [[(each.texts, each.used, each.share, each.verdict) for each in fit_piece(pieces[0], one)] for one in asked]
    assert fits[0] == fits[1]


@pytest.mark.usefixtures("unwatched")
def test_a_sheet_of_a_large_piece_is_the_same(monkeypatch: pytest.MonkeyPatch) -> None:
    piece = Piece(Source("<p style='color: teal'>Low <b>water</b></p>" * 40, "piece.html"))
    sheets = []
    for much in (10**9, 0):  # the trees of each journey kept; made anew for its row
        monkeypatch.setattr("verse_tray.tasks.journeys.MUCH", much)
        preview = Preview(PreviewRequest("piece.html", ("article", "note-field"), processes=2), piece)
        sheets.append(preview.made(Outputs(), {}, lambda journeys, _: journeys).sheet)
    assert sheets[0] == sheets[1] and sheets[0]


@pytest.mark.parametrize("number", [signal.SIGINT, signal.SIGTERM])
def test_an_interrupt_waits_until_nothing_is_loaded(number: signal.Signals) -> None:
    loaded: list[float] = []
    both = signal.SIGINT, signal.SIGTERM  # whoever runs the tests in the background may have them ignored
    usual = [signal.signal(each, signal.default_int_handler) for each in both]
    try:
        began = time.monotonic()
        with pytest.raises(KeyboardInterrupt), loading(lambda: loaded.append(time.sleep(0.5) or time.monotonic())):  # type: ignore[func-returns-value]
            os.kill(os.getpid(), number)
            assert not loaded
            time.sleep(60)
        assert loaded and time.monotonic() - began < 20
        assert signal.getsignal(signal.SIGTERM) is signal.getsignal(signal.SIGINT) is signal.default_int_handler
        with pytest.raises(KeyboardInterrupt), loading(lambda: None):
            while True:
                os.kill(os.getpid(), number)
    finally:
        for each, handler in zip(both, usual, strict=True):
            signal.signal(each, handler)


PIECE = '<p class="a" style="color: teal">Low water <b>06:12</b></p><script>x.y()</script>' * 3
COURSE, BLOG = chosen_editors(["course-page", "blog-post"])


def unpacked(piece: Piece, editor: Editor) -> None:
    made = Journey.unpacked(piece, editor, journey(piece, editor).packed())
    assert made.published and made.findings
    made.rest()


@pytest.mark.parametrize(
    "work",
    [
        lambda piece, editor: journey(piece, editor).findings,
        unpacked,
        lambda piece, _: mistakes(piece),
        fit,
        lambda piece, editor: fit_together(piece, [editor, BLOG]),
    ],
)
def test_what_was_worked_out_goes_with_who_asked_for_it(work: Callable[[Piece, Editor], object]) -> None:
    piece, editor = Piece(Source(PIECE)), COURSE.with_(name="ours")
    there = weakref.ref(piece), weakref.ref(editor)
    gc.disable()  # what holds itself is held until it looks: for a long time, where one piece follows another
    try:
        work(piece, editor)
        del piece, editor
        assert [each() for each in there] == [None, None]
    finally:
        gc.enable()


def test_of_many_pieces_only_that_at_hand_is_known(unwatched: None) -> None:
    pieces = [Piece(Source(PIECE, f"{number}.html")) for number in range(4)]
    known = [
        [number for number, piece in enumerate(pieces) if len(piece.__dict__) > 1]
        for _ in check(pieces, CheckRequest((COURSE,)))
    ]
    assert known == [[0], [1], [2], [3]]
