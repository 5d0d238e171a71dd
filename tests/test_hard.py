"""Hard use: odd outputs, odd inputs, signs that would steer a terminal, pictures that are none."""

from __future__ import annotations

import io
import os
import pty
import random
import re
import signal
import subprocess
import sys
import termios
import time
import tomllib
from collections.abc import Callable
from contextlib import suppress
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import pytest
from PIL import Image

from support.program import PROGRAM, Running, read_at_the_start, run
from verse_tray.media import picture_size
from verse_tray.media.picture_size import Measured, Unreadable, measure

CASES = tomllib.loads((Path(__file__).parent / "data" / "hard.toml").read_text("utf-8"))
PIECE = '<p class="a">Low water é 🦀 {{name}}<script>1</script></p>\n'
SIGNS = (
    '<p>a\x1b[31mb\x9bc\x07<script>1\x1b]0;x\x07</script><img src="a\x1b[2J.png" alt="x\x9b1m"><b style="\x1b">d</b>'
)
POSTSCRIPT = b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\n{} loop\n"


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "piece.html").write_text(PIECE, "utf-8")
    (tmp_path / "link.html").symlink_to("piece.html")
    (tmp_path / "signs.html").write_text(SIGNS, "utf-8")
    (tmp_path / "out.html").write_text("before", "utf-8")
    (tmp_path / os.fsdecode(b"bad\xff.html")).write_text("<p id=a>Low water<p id=a>x", "utf-8")
    (tmp_path / "digits.json").write_text(f'[{{"name": {"9" * 5000}}}]', "utf-8")
    (tmp_path / "digits.toml").write_text(f'title = "t"\nsummary = "s"\nregions = {"9" * 5000}\n', "utf-8")
    (tmp_path / "half.json").write_text('[{"name": "a\\ud800b"}]', "utf-8")
    (tmp_path / "half.csv").write_text("name\nMaren\n", "utf-8")
    (tmp_path / "header.csv").write_text("name\n", "utf-8")
    (tmp_path / "eps.png").write_bytes(POSTSCRIPT)
    (tmp_path / "picture.html").write_text('<img src="eps.png" alt="x"><img src="data:image/png,%25!PS%0A{} loop">')
    profile = tmp_path / "profile"
    profile.mkdir()
    (profile / "editor.toml").write_text(
        'format = "verse-tray-editor/1"\ntitle = "t"\nsummary = "s"\n[save]\n', "utf-8"
    )
    (profile / "frame.html").write_text("<body><!-- piece --></body>", "utf-8")
    (profile / "theme.css").write_text("p { top: 0 }", "utf-8")
    (profile / "elsewhere.css").symlink_to("../piece.html")
    return tmp_path


def shell(line: str, folder: Path) -> tuple[int, bytes, str]:
    """Run a line of the shell; return exit code, standard output and standard error.

    Where the program is the last of it and keeps its streams, it is run with the arguments that the shell has for it.
    """
    if not re.search("[<>|]|[A-Z]=", line):
        asked = subprocess.check_output(line.replace("verse-tray", "printf '%s\\0'"), shell=True, cwd=folder)
        ran = run(*map(os.fsdecode, asked.split(b"\0")[:-1]), cwd=folder)
        return ran.returncode, ran.stdout.encode(), ran.stderr
    path = f"{Path(sys.executable).parent}{os.pathsep}{os.environ['PATH']}"
    done = subprocess.run(
        line, shell=True, cwd=folder, env={**os.environ, "PATH": path}, capture_output=True, timeout=90
    )
    return done.returncode, done.stdout, done.stderr.decode("utf-8", "replace")


@pytest.mark.parametrize("case", CASES["outputs"] + CASES["inputs"], ids=lambda case: case["run"][:70])
def test_hard_use_gets_one_clear_answer(folder: Path, case: dict[str, Any]) -> None:
    before = {path.name: path.read_bytes() for path in folder.iterdir() if path.is_file() and path.name != "out.html"}
    code, out, said = shell(case["run"], folder)
    assert (code, case.get("told", "") in said) == (case["code"], True), said
    assert not re.search("Traceback|fault of ours|Exception ignored", said)
    assert all((folder / name).read_bytes() == data for name, data in before.items())
    assert not [path for path in folder.iterdir() if path.name.startswith(".")]
    assert case.get("shown", "") in out.decode("utf-8", "replace")


@pytest.mark.parametrize("command", CASES["signs"]["commands"])
def test_no_sign_of_a_piece_steers_a_terminal(folder: Path, command: str) -> None:
    done = run(*command.split(), cwd=folder)
    for shown in (done.stdout, done.stderr):
        assert not re.search("[\x00-\x08\x0b-\x1f\x7f-\x9f]", shown)


@cache
def usually(command: str) -> subprocess.CompletedProcess[str]:
    """Return what a command does without a terminal."""
    with TemporaryDirectory() as folder:
        Path(folder, "piece.html").write_text(PIECE, "utf-8")
        return run(*command.split(), cwd=Path(folder))


def in_terminal(command: list[str], folder: Path, terminal: int, odd: dict[str, str]) -> Callable[[], int | None]:
    """Run the program in a terminal, and return what asks for its exit code; None before it has ended."""
    if not read_at_the_start(odd):
        return Running(*command, cwd=folder, terminal=os.ttyname(terminal), environment=odd).poll
    environment = {**os.environ, **odd}  # its interpreter reads it
    return subprocess.Popen(
        [*PROGRAM, *command], cwd=folder, stdin=terminal, stdout=terminal, stderr=terminal, env=environment
    ).poll


@pytest.mark.parametrize("case", CASES["terminals"]["runs"])
def test_any_terminal_gets_the_whole_answer(folder: Path, case: str) -> None:
    environment, size, command = (each.strip() for each in case.split("|"))
    terminal, program = pty.openpty()
    lines, columns = map(int, size.split("x"))
    termios.tcsetwinsize(program, (lines, columns))
    odd = {"TERM": "xterm", **dict(each.split("=", 1) for each in environment.split())}
    ended, shown = in_terminal(command.split(), folder, program, odd), b""
    os.close(program)
    code = None
    while code is None:
        code = ended()  # asked for before the reading: what it has told by then is there
        with suppress(OSError):  # nobody has it open, not yet or no more
            while part := os.read(terminal, 1 << 16):
                shown += part
        time.sleep(0.01)
    os.close(terminal)
    usual = usually(command)
    text, words = shown.decode("utf-8", "replace"), set(re.findall(r"[a-z]{5,}", usual.stdout + usual.stderr))
    words -= set(re.findall("[a-z]+", PIECE))  # the piece itself is cut around what is shown of it
    assert (code, usual.stdout != "", len(words) > 3) == (usual.returncode, True, True), text
    assert not re.search("Traceback|fault of ours|Exception ignored|Warning", text)
    plain = re.sub(r"\x1b\[[0-9;]*m|\s", "", text)
    assert all(word in plain for word in words), text
    assert ("\x1b" in plain, "TERM=dumb" in case and "\x1b" in text) == (False, False)


def drawn(form: str) -> bytes:
    file = io.BytesIO()
    Image.effect_noise((48, 32), 40).convert("RGB").save(file, form)
    return file.getvalue()


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Return a file with some bytes changed, cut off, doubled or made extreme."""
    made = bytearray(data)
    for _ in range(rng.choice((1, 2, 8, 40))):
        at = rng.randrange(len(made))
        kind = rng.randrange(4)
        if kind == 0:
            made[at] = rng.randrange(256)
        elif kind == 1:
            del made[at:]
        elif kind == 2:
            made[at:at] = made[at : at + 20]
        else:
            made[at : at + 4] = b"\xff\xff\xff\x7f"
        if not made:
            return b"\x00"
    return bytes(made)


def test_pictures_are_those_that_browsers_show(monkeypatch: pytest.MonkeyPatch) -> None:
    for form in picture_size.FORMATS:
        found = measure(drawn(form))
        assert isinstance(found, Measured)
        assert (found.kind, form == "ICO" or (found.width, found.height) == (48, 32)) == (form, True)
    for form in ("DDS", "EPS", "TIFF", "PPM", "TGA", "ICNS", "PDF"):
        assert isinstance(measure(drawn(form)), Unreadable), form
    assert isinstance(measure(POSTSCRIPT), Unreadable)
    file = io.BytesIO()
    Image.new("1", (5000, 5000)).save(file, "PNG")
    flat = file.getvalue()
    monkeypatch.setattr("PIL.Image.Image.load", lambda _: pytest.fail("unpacked"))
    monkeypatch.setattr("PIL.PngImagePlugin.PngImageFile.load", lambda _: pytest.fail("unpacked"))
    assert measure(flat) == Measured(5000, 5000, len(flat), "PNG")
    assert measure(flat[:-20]) == Unreadable("is cut off before its end")


def test_damaged_pictures_are_measured_or_told() -> None:
    rng = random.Random(11)
    files = [drawn(form) for form in (*picture_size.FORMATS, "DDS", "EPS", "TIFF")]
    for _ in range(2_000):
        assert isinstance(measure(damaged(rng.choice(files), rng)), Measured | Unreadable)


@pytest.mark.parametrize("sent", [signal.SIGKILL, signal.SIGTERM])
def test_a_run_that_is_killed_leaves_the_file_as_it_was_or_as_it_is_to_be(tmp_path: Path, sent: signal.Signals) -> None:
    file = tmp_path / "piece.html"
    written = '<a href="www.gannetcove.example/walks">Walks</a>\n' + "<p>Low water at six</p>\n" * 400
    command = ["check", file.name, "--fix", "--write", "--editor", "none"]
    for wait in (0.01, 0.04, 0.08, 0.12, 0.2, 0.3):
        file.write_text(written, "utf-8")
        running = Running(*command, cwd=tmp_path)
        time.sleep(wait)
        running.send(sent)
        running.ended()
        whole = (written, written.replace("www", "https://www"))
        assert {each.read_text("utf-8") for each in tmp_path.iterdir()} <= {*whole}  # backups as well
