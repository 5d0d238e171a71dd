"""What a forked process does to be the program; apart from what forks it, as each of them reads this file."""

from __future__ import annotations

import atexit
import os
import sys
import threading
import traceback
from collections.abc import Mapping
from importlib import import_module


def be_program(
    arguments: tuple[str, ...], cwd: str, environment: Mapping[str, str], streams: str, loaded: list[str]
) -> None:
    """Be the program: with its streams, its folder and its environment, from its first function to its exit code."""
    missing = [name for name in loaded if name not in sys.modules]
    assert not missing, f"not loaded before the fork: {missing}"
    os.setsid()
    os.environ.clear()
    os.environ.update(environment)
    os.chdir(cwd)
    for number, flags in enumerate((os.O_RDONLY, os.O_WRONLY | os.O_CREAT, os.O_WRONLY | os.O_CREAT)):
        os.dup2(os.open(f"{streams}/{number}", flags), number)
    sys.argv = ["verse-tray", *arguments]
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
        import_module("verse_tray.start").run()
    except SystemExit as ended:
        return ended.code if isinstance(ended.code, int) else int(ended.code is not None)
    except BaseException:
        traceback.print_exc()
        return 1
    return 0
