"""Small parts by table, from data/details.toml."""

from __future__ import annotations

import errno
import os
import signal
import tempfile
import time
import tomllib
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from importlib import import_module
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import verse_tray.preview.browser.scratch
from verse_tray.markup.addresses import host_of, scheme_of, srcset_addresses
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.model.decoding import Source
from verse_tray.model.errors import OutputError
from verse_tray.model.inputs import read_file
from verse_tray.model.spans import LineIndex, Span
from verse_tray.preview.browser.scratch import driver_variables, scratch, variables
from verse_tray.reports.excerpt import excerpt
from verse_tray.tasks import outputs
from verse_tray.tasks.outputs import keep, run_begins, write_whole

TABLES: dict[str, list[Any]] = tomllib.loads((Path(__file__).parent / "data" / "details.toml").read_text("utf-8"))


@pytest.mark.parametrize(("address", "scheme", "host"), TABLES["addresses"])
def test_addresses_as_browsers_read_them(address: str, scheme: str, host: str) -> None:
    assert (scheme_of(address) or "", host_of(address) or "") == (scheme, host)


@pytest.mark.parametrize("row", TABLES["srcsets"])
def test_srcsets(row: list[str]) -> None:
    assert srcset_addresses(row[0]) == row[1:]


@pytest.mark.parametrize(("text", "start", "end", "width", "line", "carets"), TABLES["excerpts"])
def test_excerpts(text: str, start: int, end: int, width: int, line: str, carets: str) -> None:
    assert excerpt(Source(text), Span(start, end), width) == (line, carets)


@pytest.mark.parametrize(("text", "splices", "result"), TABLES["splices"])
def test_splices(text: str, splices: list[list[Any]], result: str) -> None:
    spliced = Spliced(text, [Splice(Span(start, end), new) for start, end, new in splices])
    assert spliced.text == result
    gone = {at for start, end, _ in splices for at in range(start, end)}
    for at, sign in enumerate(text):
        assert at in gone or result[spliced.new_offset(at)] == sign


def test_splices_that_cross_are_refused() -> None:
    with pytest.raises(ValueError, match="overlap"):
        Spliced("abcdef", [Splice(Span(1, 4), ""), Splice(Span(3, 5), "")])


@settings(deadline=None)
@given(st.text(alphabet="a\n\r\t😀", max_size=20))
def test_lines_and_columns_count_as_editors_do(text: str) -> None:
    index = LineIndex(text)
    line = column = 1
    for at, sign in enumerate(text):
        assert tuple(index.place(at)) == (line, column)
        column += 1
        if sign == "\n" or (sign == "\r" and text[at + 1 : at + 2] != "\n"):
            line, column = line + 1, 1


def test_a_file_is_written_whole_or_not_at_all(tmp_path: Path) -> None:
    target = tmp_path / "new" / "x.html"
    write_whole(target, b"one")
    write_whole(target, b"two")
    assert target.read_bytes() == b"two"
    target.with_name("folder").mkdir()
    for path in (target / "below", target.with_name("folder")):
        with pytest.raises(OutputError):
            write_whole(path, b"three")
    assert sorted(path.name for path in target.parent.iterdir()) == ["folder", "x.html"]
    assert target.read_bytes() == b"two"


def test_a_link_stays_a_link_and_a_pipe_a_pipe(tmp_path: Path) -> None:
    (tmp_path / "shelf").mkdir()
    link, pipe = tmp_path / "link.html", tmp_path / "pipe"
    link.symlink_to("shelf/piece.html")
    for data in (b"one", b"two"):  # at first it leads nowhere
        write_whole(link, data)
        assert (link.is_symlink(), (tmp_path / "shelf" / "piece.html").read_bytes()) == (True, data)
    os.mkfifo(pipe)
    with ThreadPoolExecutor(1) as pool:
        read = pool.submit(pipe.read_bytes)
        write_whole(pipe, b"three")
        assert read.result() == b"three"
    assert pipe.is_fifo()


@pytest.mark.parametrize("nameless", [True, False])
def test_files_are_written_so_that_nothing_is_lost(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, nameless: bool
) -> None:
    if not nameless:
        monkeypatch.delattr(os, "O_TMPFILE")  # as on systems and disks that have no files without a name
    monkeypatch.setattr(outputs, "_began", None)  # and so it is again afterwards
    target = tmp_path / "x.html"
    target.write_bytes(b"one")
    target.chmod(0o604)
    kept = [keep(target), keep(target)]
    assert [path.name for path in kept] == ["x.html.bak", "x.html.bak2"]
    assert {path.stat().st_mode & 0o777 for path in kept} == {0o604}
    write_whole(target, b"two")
    assert target.stat().st_mode & 0o777 == 0o604
    read_file(target)
    with pytest.raises(OutputError, match="one of the files that were read"):
        write_whole(tmp_path / "." / "x.html", b"three")
    (tmp_path / "link.html").symlink_to("x.html")
    with pytest.raises(OutputError, match="one of the files that were read"):
        write_whole(tmp_path / "link.html", b"three")
    write_whole(target, b"four", mended=True)
    target.chmod(0o444)
    with pytest.raises(OutputError, match="write-protected"):
        write_whole(target, b"five", mended=True)
    target.chmod(0o644)
    run_begins()
    write_whole(target, b"six")
    with pytest.raises(OutputError, match="this run has written it already"):
        write_whole(target, b"seven")
    time.sleep(0.02)
    target.write_bytes(b"somebody's")
    with pytest.raises(OutputError, match="somebody else has written it"):
        write_whole(target, b"eight")
    assert target.read_bytes() == b"somebody's"
    monkeypatch.setattr(outputs, "_began", None)
    long = tmp_path / ("é" * 127)
    write_whole(long, b"one")
    assert keep(long).read_bytes() == b"one"
    monkeypatch.setattr(os, "fsync", lambda _: (_ for _ in ()).throw(OSError(errno.ENOSPC, "No space left on device")))
    for write in (lambda: write_whole(long, b"two"), lambda: keep(long)):
        with pytest.raises(OutputError, match="No space left on device"):
            write()
    assert long.read_bytes() == b"one"
    assert not [path for path in tmp_path.iterdir() if path.name.startswith(".")]


def test_a_driver_keeps_its_scripts_only_where_nobody_else_writes(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv("NODE_COMPILE_CACHE", raising=False)
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "caches"))
    kept = tmp_path / "caches" / "verse-tray" / "driver"
    assert driver_variables("/x") == {"TMPDIR": "/x", "NODE_COMPILE_CACHE": str(kept)}
    assert kept.stat().st_mode & 0o777 == 0o700
    kept.chmod(0o777)
    assert driver_variables("/x") == {"TMPDIR": "/x"}
    monkeypatch.setenv("XDG_CACHE_HOME", "/proc/caches")
    assert driver_variables("/x") == {"TMPDIR": "/x"}
    monkeypatch.setenv("NODE_COMPILE_CACHE", "/y")
    with variables(driver_variables("/x")):
        assert (os.environ["TMPDIR"], os.environ["NODE_COMPILE_CACHE"]) == ("/x", "/y")
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    monkeypatch.setattr(tempfile, "tempdir", None)
    monkeypatch.setattr(verse_tray.preview.browser.scratch, "_IN_MEMORY", str(tmp_path / "caches"))
    with scratch() as folder:
        assert Path(folder).parent == tmp_path
    for name in ("TMPDIR", "TEMP", "TMP"):
        monkeypatch.delenv(name, raising=False)
    for room, where in ((1, tmp_path / "caches"), (1 << 60, tmp_path)):
        monkeypatch.setattr(verse_tray.preview.browser.scratch, "_ROOM", room)
        with scratch() as folder:
            assert Path(folder).parent == where


def test_a_run_that_is_killed_while_it_writes_leaves_no_part_of_a_file(tmp_path: Path) -> None:
    file = tmp_path / "x.html"
    file.write_bytes(b"one")
    for write in (lambda: write_whole(file, b"two"), lambda: keep(file)):
        if not (process := os.fork()):
            with suppress(BaseException), pytest.MonkeyPatch.context() as patched:
                patched.setattr(os, "fsync", lambda _: os.kill(os.getpid(), signal.SIGKILL))
                write()
            os._exit(0)
        assert os.waitstatus_to_exitcode(os.waitpid(process, 0)[1]) == -signal.SIGKILL
        assert ([*tmp_path.iterdir()], file.read_bytes()) == ([file], b"one")


def test_the_examples_do_not_depend_on_what_is_loaded(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def drawn() -> list[int]:
        found: list[int] = []

        @settings(derandomize=True, max_examples=300, database=None)
        @given(st.integers())
        def draw(number: int) -> None:
            found.append(number)

        draw()
        return found

    before = drawn()
    (tmp_path / "heights_of_tides.py").write_text(f"HEIGHTS = {[7_000_001 + 13 * each for each in range(500)]}")
    monkeypatch.syspath_prepend(tmp_path)
    import_module("heights_of_tides")
    assert drawn() == before
