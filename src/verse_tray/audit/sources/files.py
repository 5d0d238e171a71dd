"""Files of HTML, alone or in folders."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from verse_tray.audit.post import Post
from verse_tray.model.decoding import page_text
from verse_tray.model.errors import InputError

ENDINGS = (".html", ".htm", ".xhtml")
"""Endings of files of HTML."""


def of_folder(source: str, folder: Path) -> Iterator[Post]:
    """Yield the files of HTML in a folder and its folders, by name.

    Raises:
        InputError: there are none, or one cannot be read.
    """
    found = sorted(path for path in folder.rglob("*") if path.suffix.lower() in ENDINGS and path.is_file())
    if not found:
        raise InputError(f"{source}: there is no file of HTML in this folder.")
    for number, path in enumerate(found, 1):
        yield from of_file(source, path, path.relative_to(folder).as_posix(), number / len(found))


def of_file(source: str, path: Path, name: str, read: float = 1.0) -> Iterator[Post]:
    """Yield a file of HTML; its date is when it was changed last.

    Raises:
        InputError: it cannot be read.
    """
    try:
        data = path.read_bytes()
        changed = datetime.fromtimestamp(path.stat().st_mtime, UTC)
    except OSError as error:
        raise InputError(f"{path}: it cannot be read: {error.strerror or error}.") from None
    yield Post(source, name, page_text(data), "", changed.isoformat(timespec="seconds"), read)
