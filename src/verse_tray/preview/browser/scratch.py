"""Where programs that we start leave files: those that go with them, and those that the next start is quicker by."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator, Mapping
from contextlib import contextmanager, suppress
from tempfile import TemporaryDirectory

_IN_MEMORY = "/dev/shm"  # where systems have files that are on no disk
_ROOM = 2 << 30  # bytes that have to be free there: the browser keeps what it draws there as well
_COMPILED = "NODE_COMPILE_CACHE"  # a folder in which its scripts are kept as they were compiled the first time


@contextmanager
def variables(values: Mapping[str, str]) -> Iterator[None]:
    """See to it that a program which is started in the block finds these variables in its environment."""
    usual = {name: os.environ.get(name) for name in values}
    os.environ.update(values)
    try:
        yield
    finally:
        for name, value in usual.items():
            if value is None:
                del os.environ[name]
            else:
                os.environ[name] = value


def scratch() -> TemporaryDirectory[str]:
    """Return a new folder for what goes with the browser: in memory where there is room and nobody says otherwise.

    A browser that is ended from outside leaves its files behind: they lie where we take them away.
    """
    where = None
    with suppress(OSError):
        room = shutil.disk_usage(_IN_MEMORY).free
        if room >= _ROOM and not any(os.environ.get(name) for name in ("TMPDIR", "TEMP", "TMP")):
            where = _IN_MEMORY
    try:
        return _folder(where)
    except OSError:
        return _folder(None)


def _folder(where: str | None) -> TemporaryDirectory[str]:
    return TemporaryDirectory(prefix="verse-tray-", dir=where, ignore_cleanup_errors=True)


def driver_variables(folder: str) -> dict[str, str]:
    """Return what the program that drives the browser finds in its environment.

    Args:
        folder: For its temporary files, and for those of the browser.
    """
    values = {"TMPDIR": folder}
    if _COMPILED not in os.environ and (own := _own_folder()):
        values[_COMPILED] = own
    return values


def _own_folder() -> str | None:
    """Return a folder of this user for what was compiled; None where there is none that nobody else writes in."""
    from platformdirs import user_cache_path

    path = user_cache_path("verse-tray", appauthor=False) / "driver"
    try:
        path.mkdir(mode=0o700, parents=True, exist_ok=True)
        status = path.stat()
    except OSError:
        return None
    if hasattr(os, "geteuid") and (status.st_uid != os.geteuid() or status.st_mode & 0o022):
        return None  # who writes there decides what the driver runs
    return str(path)
