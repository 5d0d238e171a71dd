"""The program itself, started as its users start it, or forked from an interpreter that has loaded it."""

from __future__ import annotations

import multiprocessing
import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator, Mapping
from contextlib import suppress
from pathlib import Path
from pkgutil import iter_modules
from tempfile import TemporaryDirectory

import verse_tray
from support.forked import be_program

PROGRAM = [str(Path(sys.executable).with_name("verse-tray"))]
PIECE = '<p class="a">Low water<br/><script>1</script></p>\n'
_PATIENCE = 120  # seconds
_STARTED = bool(os.environ.get("EACH_STARTED"))  # each run by a start of its own
_FORKS = multiprocessing.get_context("forkserver")


def _modules(folder: Path, prefix: str) -> Iterator[str]:
    for each in iter_modules([str(folder)], prefix):  # looked for, and not loaded here
        yield each.name
        if each.ispkg:
            yield from _modules(folder / each.name.rpartition(".")[2], f"{each.name}.")


_LOADED = ["httpcore", "uvicorn.protocols.http.h11_impl", "uvicorn.lifespan.off", "tree_sitter_javascript", "_quickjs"]
_LOADED += ["tinycss2.color4", "tree_sitter", "encodings.idna", "PIL.GifImagePlugin", "PIL.JpegImagePlugin"]
_LOADED += [name for name in _modules(Path(verse_tray.__path__[0]), "verse_tray.") if "__main__" not in name]
_FORKS.set_forkserver_preload(_LOADED)  # by names that any interpreter here finds: what it does not find, it leaves out


def run(*arguments: str, cwd: Path, stdin: bytes = b"", **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the program in a process of its own; its output is decoded as it stands.

    Most of the time of a small job is loading the program: the process is forked from one that has done so.
    """
    if _STARTED or read_at_the_start(environment):
        return started(*arguments, cwd=cwd, stdin=stdin, **environment)
    return Running(*arguments, cwd=cwd, stdin=stdin, environment=environment).ended()


def read_at_the_start(environment: Mapping[str, str]) -> bool:
    """Tell whether some of an environment is for the interpreter, which reads it before anything else."""
    return any(name.startswith(("PYTHON", "LANG", "LC_")) for name in environment)


class Running:
    """A forked run of the program that goes on by itself."""

    def __init__(
        self,
        *arguments: str,
        cwd: Path,
        stdin: bytes = b"",
        terminal: str = "",
        environment: Mapping[str, str] | None = None,
    ) -> None:
        """Begin it; its streams are those of a terminal where the path of one is given."""
        self._arguments = arguments
        self._streams = TemporaryDirectory()
        if terminal:
            for each in "012":
                Path(self._streams.name, each).symlink_to(terminal)
        else:
            Path(self._streams.name, "0").write_bytes(stdin)
        known = {**os.environ, **(environment or {})}
        self._process = _FORKS.Process(
            target=be_program, args=(arguments, str(cwd), known, self._streams.name, _LOADED)
        )
        self._process.start()

    @property
    def pid(self) -> int:
        """Its number."""
        return self._process.pid or 0

    def told(self, lines: int = 0) -> str:
        """Return what it has told on standard error, once it is so many lines, or it has ended."""
        until = time.monotonic() + _PATIENCE
        while (told := self._read("2")).count("\n") < lines and self._process.is_alive() and time.monotonic() < until:
            time.sleep(0.02)
        return told

    def poll(self) -> int | None:
        """Return its exit code, and forget what it has told; None before it has ended."""
        code = self._process.exitcode
        if code is not None:
            self._streams.cleanup()
        return code

    def send(self, sent: signal.Signals) -> None:
        """Send it a signal; the interrupt is what Ctrl-C sends."""
        with suppress(ProcessLookupError):  # it has ended
            if self._process.is_alive():
                os.kill(self.pid, sent)

    def ended(self, patience: float = _PATIENCE) -> subprocess.CompletedProcess[str]:
        """Return what has come of it when it has ended."""
        self._process.join(patience)
        if self._process.exitcode is None:
            self._process.kill()
            raise subprocess.TimeoutExpired(self._arguments, patience)
        with self._streams as streams:
            out, err = ("" if Path(streams, each).is_symlink() else self._read(each) for each in "12")
        return subprocess.CompletedProcess([*PROGRAM, *self._arguments], self._process.exitcode, out, err)

    def _read(self, stream: str) -> str:
        file = Path(self._streams.name, stream)
        return file.read_bytes().decode("utf-8") if file.exists() else ""


def started(*arguments: str, cwd: Path, stdin: bytes = b"", **environment: str) -> subprocess.CompletedProcess[str]:
    """Start the program and run it; its output is decoded as it stands."""
    done = subprocess.run(
        [*PROGRAM, *arguments],
        cwd=cwd,
        input=stdin,
        capture_output=True,
        timeout=_PATIENCE,
        env={**os.environ, **environment},
    )
    return subprocess.CompletedProcess(
        done.args, done.returncode, done.stdout.decode("utf-8"), done.stderr.decode("utf-8")
    )
