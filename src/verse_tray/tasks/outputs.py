"""The one way in which files are written: whole or not at all, and nothing of the author's lost."""

from __future__ import annotations

import os
import stat
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from types import TracebackType
from typing import Self

from verse_tray.model.errors import OutputError
from verse_tray.model.inputs import was_read, was_replaced

_OPEN_FILES = Path("/proc/self/fd")  # where some systems show what is open here
_PREFIX = ".verse-tray."
_LONGEST_NAME = 255  # bytes; what file systems in use allow
_began: int | None = None  # when the command began, in ns; None for those who call from a program of their own
_written: dict[tuple[int, int], int] = {}


def run_begins() -> None:
    """Say that a command begins: what others write from now on, it does not write over."""
    global _began
    _began = time.time_ns()
    _written.clear()


def write_whole(path: Path, data: bytes, *, mended: bool = False, again: bool = False) -> None:
    """Write a file whole or not at all, flushed to the disk, with the rights of what stood there.

    A link stays one; what is no file (a pipe, a device) is written to as it is.

    Args:
        path: Where to.
        data: What.
        mended: Whether it is a file that was read on purpose to be written anew.
        again: Whether it is a file of ours that this run may write several times.

    Raises:
        OutputError: it cannot be written, it is one of the files that were read, it is write-protected, or another
            run has written it meanwhile; what stood there before still does.
    """
    try:
        if path.exists() and not path.is_file():
            path.write_bytes(data)
            return
        target = Path(os.path.realpath(path))
        target.parent.mkdir(parents=True, exist_ok=True)
        with _Nameless(target.parent, data, target) as new, _alone_in(target.parent):
            _may_replace(path, target, new.status(), mended=mended, again=again)
            before = target.stat() if target.exists() else None
            new.take_place(target)
            if before is not None:
                was_replaced(before)
            status = target.stat()
            _written[status.st_dev, status.st_ino] = status.st_mtime_ns
        _flush_folder(target.parent)
    except (OSError, ValueError) as error:  # a name can hold what no name can
        reason = getattr(error, "strerror", None) or str(error)
        raise OutputError(f"{path}: it cannot be written: {reason}.") from None


class _Nameless:
    """A file with all its data and rights that has no name yet, so that a run which is killed leaves no part of it.

    Where the system knows no such files it has a name that nobody asks for, and goes with the block.
    """

    def __init__(self, folder: Path, data: bytes, old: Path) -> None:
        """Write it.

        Args:
            folder: Where it will stand.
            data: What it holds.
            old: Whose rights it takes; those of a new file where that does not stand.
        """
        handle, self._file = _opened(folder)
        try:
            with os.fdopen(handle, "wb", closefd=isinstance(self._file, Path)) as file:
                file.write(data)
                file.flush()
                _take_rights(old, self._file)
                os.fsync(handle)
        except BaseException:
            self.__exit__(None, None, None)
            raise

    def __enter__(self) -> Self:
        """Wait for a name."""
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Let it go, unless it has a name by now."""
        if isinstance(self._file, Path):
            self._file.unlink(missing_ok=True)
        else:
            os.close(self._file)

    def status(self) -> os.stat_result:
        """Return what is known of it."""
        return os.stat(self._file)  # noqa: PTH116 - it may have no path

    def take_name(self, path: Path) -> None:
        """Stand under a name that nothing has.

        Raises:
            FileExistsError: something has it.
        """
        if isinstance(self._file, Path):
            os.close(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))
            self._file.replace(path)
        else:
            _name(self._file, path)

    def take_place(self, path: Path) -> None:
        """Stand under a name, in place of what has it."""
        if isinstance(self._file, Path):
            self._file.replace(path)
            return
        beside = path.with_name(f"{_PREFIX}{os.urandom(8).hex()}")
        _name(self._file, beside)
        try:
            beside.replace(path)
        except OSError:
            beside.unlink()
            raise


def _opened(folder: Path) -> tuple[int, int | Path]:
    """Return the number of a new file, and what it is known by: that, or its path."""
    if hasattr(os, "O_TMPFILE") and _OPEN_FILES.is_dir():
        with suppress(OSError):  # not every file system has them
            handle = os.open(folder, os.O_WRONLY | os.O_TMPFILE, 0o600)
            return handle, handle
    import tempfile  # few commands write

    handle, name = tempfile.mkstemp(prefix=_PREFIX, dir=folder)
    return handle, Path(name)


def _name(handle: int, path: Path) -> None:
    """Give a name to an open file that has none."""
    folder = os.open(path.parent, os.O_PATH)
    try:  # by way of a folder, as only then the system follows what stands for an open file
        os.link(_OPEN_FILES / str(handle), path.name, dst_dir_fd=folder)
    finally:
        os.close(folder)


def _is_protected(status: os.stat_result) -> bool:
    return not status.st_mode & 0o222


def _take_rights(old: Path, new: Path | int) -> None:
    """Give a new file the rights, and where that is allowed the owner, of the one whose place it takes."""
    try:
        status = old.stat()
    except FileNotFoundError:
        os.chmod(new, 0o666 & ~_mask())  # noqa: PTH101 - it may have no path
        return
    own = os.stat(new)  # noqa: PTH116
    rights = stat.S_IMODE(status.st_mode)
    if (own.st_uid, own.st_gid) != (status.st_uid, status.st_gid):
        try:
            os.chown(new, status.st_uid, status.st_gid)
        except PermissionError:
            rights &= 0o700  # it has another owner: its group is not this one's
    os.chmod(new, rights)  # noqa: PTH101


def _mask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _may_replace(path: Path, target: Path, new: os.stat_result, *, mended: bool, again: bool) -> None:
    """See that nobody loses what stands at ``target``.

    Raises:
        OutputError: somebody would.
    """
    if not target.exists():
        return
    status = target.stat()
    if not mended and was_read(target):
        raise OutputError(f"{path}: it is one of the files that were read, and is left as it is. Give another name.")
    if _is_protected(status):
        raise OutputError(f"{path}: it is write-protected, and is left as it is. Give another name, or lift that.")
    if _began is None:
        return
    written = _written.get((status.st_dev, status.st_ino)) == status.st_mtime_ns
    if written and again:
        return
    if written:
        raise OutputError(f"{path}: this run has written it already. Give each of its files a name of its own.")
    ahead = max(0, new.st_mtime_ns - time.time_ns())  # the clock of a disk elsewhere may be
    if status.st_mtime_ns - ahead > _began:
        raise OutputError(f"{path}: somebody else has written it since this run began; it is left as that. Run again.")


@contextmanager
def _alone_in(folder: Path) -> Iterator[None]:
    """Keep other runs from replacing files in a folder meanwhile, where the system has locks."""
    try:
        import fcntl

        handle = os.open(folder, os.O_RDONLY)
    except (ImportError, OSError):  # no such locks, or a folder that may be written in and not be listed
        yield
        return
    try:
        with suppress(OSError):  # a file system without locks
            fcntl.flock(handle, fcntl.LOCK_EX)
        yield
    finally:
        os.close(handle)


def _flush_folder(folder: Path) -> None:
    try:
        handle = os.open(folder, os.O_RDONLY)
    except OSError:  # not every system opens folders; the file itself is on the disk
        return
    with suppress(OSError):  # as some file systems refuse it
        os.fsync(handle)
    os.close(handle)


def may_be_mended(path: Path) -> None:
    """See that a file may be written anew, before its copy is made.

    Raises:
        OutputError: it is write-protected.
    """
    if _is_protected(path.stat()):
        raise OutputError(f"{path}: it is write-protected, and is left as it is. Lift that, or mend a copy.")


def keep(path: Path) -> Path:
    """Write a file, byte for byte and with its rights, beside it under a name that nothing has.

    Raises:
        OutputError: it cannot be written.
    """
    kept = _numbered(path, 1)
    try:
        with _Nameless(path.parent, path.read_bytes(), path) as new:
            number = 1
            while True:
                try:
                    new.take_name(kept)
                    return kept
                except FileExistsError:
                    number += 1
                    kept = _numbered(path, number)
    except OSError as error:
        raise OutputError(f"{kept}: it cannot be written: {error.strerror or error}.") from None


def _numbered(path: Path, number: int) -> Path:
    """Return the name of a backup."""
    ending = ".bak" if number == 1 else f".bak{number}"
    return path.with_name(_shortened(path.name, _LONGEST_NAME - len(ending)) + ending)


def _shortened(name: str, most: int) -> str:
    return os.fsdecode(os.fsencode(name)[:most])
