"""Sources told by what they hold: folders, feeds, tables, databases, files of HTML."""

from __future__ import annotations

import json
from collections.abc import Iterator
from glob import glob, has_magic
from pathlib import Path

from verse_tray.audit.post import Post
from verse_tray.audit.sources import feeds, files, tables
from verse_tray.model.errors import InputError

_SQLITE = b"SQLite format 3\0"
_PARQUET = b"PAR1"
_FEEDS = (b"<?xml", b"<feed", b"<rss", b"<rdf:rdf")


def posts(source: str, column: str | None = None, table: str | None = None, folder: str = "") -> Iterator[Post]:
    """Yield the pieces of a source, one by one.

    Args:
        source: A folder, a file, or a pattern of files, as somebody names it.
        column: The column that holds the markup, in tables and databases; None to tell by its name.
        table: The table of a database; None for the one that has such a column.
        folder: The folder that it is named from; this one if empty.

    Raises:
        InputError: it cannot be read; the message says where and what was expected.
    """
    path = Path(folder, source)
    try:
        if path.is_dir():
            yield from files.of_folder(source, path)
            return
        if not path.is_file():
            found = glob(source, root_dir=folder or None, recursive=True) if has_magic(source) else []  # noqa: PTH207 (it may be absolute)
            named = sorted(each for each in found if Path(folder, each).is_file())
            if not named:
                raise InputError(f"{source}: there is no such file or folder. Give a folder, a feed, a table or HTML.")
            for number, each in enumerate(named, 1):
                yield from files.of_file(source, Path(folder, each), each, number / len(named))
            return
        with path.open("rb") as file:
            first = file.read(4096)
    except (OSError, ValueError) as error:
        raise InputError(f"{source}: it cannot be read: {getattr(error, 'strerror', None) or error}.") from None
    if not first:
        raise InputError(f"{source}: this file is empty.")
    bare = first.removeprefix(b"\xef\xbb\xbf").lstrip()
    if first.startswith(_SQLITE):
        yield from tables.of_database(source, path, column, table)
    elif first.startswith(_PARQUET):
        yield from tables.of_parquet(source, path, column)
    elif bare.lower().startswith(_FEEDS) and not _is_page(bare):
        yield from feeds.of_xml(source, path)
    elif bare.startswith(b"{"):
        yield from feeds.of_json(source, path) if _is_json_feed(path) else tables.of_json_lines(source, path, column)
    elif bare.startswith(b"<") or path.suffix.lower() in files.ENDINGS:
        yield from files.of_file(source, path, path.name)
    else:
        yield from tables.of_csv(source, path, column)


def _is_page(first: bytes) -> bool:
    """Tell whether what begins like XML is a page in XHTML."""
    return b"<html" in first.lower() and b"<feed" not in first.lower() and b"<rss" not in first.lower()


def _is_json_feed(path: Path) -> bool:
    """Tell whether a file of JSON is one object, and not one a line."""
    with path.open("rb") as file:
        line = file.readline()
    try:
        found = json.loads(line)
    except (ValueError, RecursionError):
        return True  # it goes on in the next line
    return isinstance(found, dict) and "items" in found
