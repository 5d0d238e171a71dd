"""Files that this run reads; which they were is kept, so that none of them is written over."""

from __future__ import annotations

import os
from pathlib import Path
from typing import BinaryIO

from verse_tray.model.errors import InputError

_read: set[tuple[int, int]] = set()


def hold_text(value: str, what: str) -> str:
    """Return a value of the command line if it is a text.

    Raises:
        InputError: it holds bytes that are no UTF-8, or a NUL.
    """
    if any("\ud800" <= sign <= "\udfff" or sign == "\0" for sign in value):
        raise InputError(f"{what}: the value is no UTF-8. Give it in UTF-8.")
    return value


def read_file(path: str | Path, most: int = -1) -> bytes:
    """Return the bytes of a file, and remember that it was read.

    Args:
        path: The file.
        most: Most bytes that are returned; below 0 for all.

    Raises:
        OSError: it cannot be read.
    """
    with open(path, "rb") as file:
        return read_stream(file, most)


def read_stream(file: BinaryIO, most: int = -1) -> bytes:
    """Return what an open file holds; where a file of the disk stands behind it, it counts as read."""
    try:
        status = os.fstat(file.fileno())
    except (OSError, ValueError):  # a stream that no file stands behind
        return file.read(most)
    _read.add((status.st_dev, status.st_ino))
    return file.read(most)


def read_utf8(path: Path) -> str:
    """Return the text of a file, its lines ending in LF.

    Raises:
        OSError: it cannot be read.
        UnicodeDecodeError: it is not UTF-8.
    """
    return read_file(path).decode("utf-8").replace("\r\n", "\n").replace("\r", "\n")


def stands_in(folder: Path, path: Path) -> bool:
    """Tell whether a path is a plain file of a folder itself, links followed.

    Raises:
        OSError: it cannot be looked at.
    """
    return path.resolve().parent == folder.resolve() and path.is_file()


def read_beside(described: Path, file: str, what: str) -> tuple[str | None, str]:
    """Read a file that stands beside another which names it.

    That other may come from somebody else: it is to show no file of this machine but those of its own folder.

    Args:
        described: The file that names it.
        file: Its name.
        what: What the other describes, for messages: ``site``.

    Returns:
        Its text, lines ending in LF, and nothing; or None and why it cannot be read.
    """
    if Path(file).name != file:
        return None, f"expected the name of a file beside the {what}, got {file!r}"
    path = described.parent / file
    try:
        if path.exists() and not stands_in(described.parent, path):
            return None, f"{file} is no plain file of the {what}'s folder; put the file itself there"
        return read_utf8(path), ""
    except FileNotFoundError:
        return None, f"there is no file {file} beside the {what}"
    except UnicodeDecodeError:
        return None, f"{file} is not UTF-8; save it as UTF-8"
    except (OSError, ValueError) as error:
        return None, f"{file!r} cannot be read: {getattr(error, 'strerror', None) or error}"


def was_read(path: Path) -> bool:
    """Tell whether a file, links followed, is one that this run has read.

    Raises:
        OSError: it cannot be looked at.
    """
    status = path.stat()
    return (status.st_dev, status.st_ino) in _read


def was_replaced(status: os.stat_result) -> None:
    """Say that a file that was read is gone: another may get its number."""
    _read.discard((status.st_dev, status.st_ino))
