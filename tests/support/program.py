"""The program itself, started as its users start it, or forked from an interpreter that has loaded it."""

from __future__ import annotations

import atexit
import multiprocessing
import os
import subprocess
import sys
import threading
import traceback
from collections.abc import Mapping
from importlib import import_module
from pathlib import Path
from pkgutil import walk_packages
from tempfile import TemporaryDirectory

import verse_tray

PROGRAM = [str(Path(sys.executable).with_name("verse-tray"))]
PIECE = '<p class="a">Low water<br/><script>1</script></p>\n'
_PATIENCE = 120  # seconds
_STARTED = bool(os.environ.get("EACH_STARTED"))  # each run by a start of its own
_FORKS = multiprocessing.get_context("forkserver")
_LOADED = [module.name for module in walk_packages(verse_tray.__path__, "verse_tray.") if "__main__" not in module.name]
_FORKS.set_forkserver_preload(_LOADED)  # by names that any interpreter here finds: what it does not find, it leaves out


def run(*arguments: str, cwd: Path, stdin: bytes = b"", **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the program in a process of its own; its output is decoded as it stands.

    Most of the time of a small job is loading the program: the process is forked from one that has done so. Runs with
    an environment of their own are started anew, for some of it is read at the start.
    """
    if environment or _STARTED:
        return started(*arguments, cwd=cwd, stdin=stdin, **environment)
    with TemporaryDirectory() as streams:
        folder = Path(streams)
        (folder / "0").write_bytes(stdin)
        process = _FORKS.Process(target=_run, args=(arguments, str(cwd), dict(os.environ), streams))
        process.start()
        process.join(_PATIENCE)
        if process.exitcode is None:
            process.kill()
            raise subprocess.TimeoutExpired(arguments, _PATIENCE)
        out, err = ((folder / each).read_bytes().decode("utf-8") for each in "12")
        return subprocess.CompletedProcess([*PROGRAM, *arguments], process.exitcode, out, err)


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


def _run(arguments: tuple[str, ...], cwd: str, environment: Mapping[str, str], streams: str) -> None:
    """Be the program: with its streams, its folder and its environment, from its first function to its exit code."""
    missing = [name for name in _LOADED if name not in sys.modules]
    assert not missing, f"not loaded before the fork: {missing}"
    os.setsid()
    os.environ.clear()
    os.environ.update(environment)
    os.chdir(cwd)
    for number, flags in enumerate((os.O_RDONLY, os.O_WRONLY | os.O_CREAT, os.O_WRONLY | os.O_CREAT)):
        os.dup2(os.open(f"{streams}/{number}", flags), number)
    sys.argv = [PROGRAM[0], *arguments]
    with (
        open(0, encoding="utf-8", closefd=False) as sys.stdin,
        open(1, "w", encoding="utf-8", closefd=False) as sys.stdout,
        open(2, "w", encoding="utf-8", errors="backslashreplace", buffering=1, closefd=False) as sys.stderr,
    ):
        code = _exit_code()
        threading._shutdown()  # type: ignore[attr-defined]
        atexit._run_exitfuncs()
    os._exit(code)


def _exit_code() -> int:
    """Run the program, and return what a process ends with that an interpreter runs it in."""
    try:
        import_module("verse_tray.start").main()
    except SystemExit as ended:
        return ended.code if isinstance(ended.code, int) else int(ended.code is not None)
    except BaseException:
        traceback.print_exc()
        return 1
    return 0
