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
_FEEDS = (b"<?xml", b"<feed", b"<rss", b"<rdf:rdf")


def posts(source: str, column: str | None = None, table: str | None = None) -> Iterator[Post]:
    """Yield the pieces of a source, one by one.

    Args:
        source: A folder, a file, or a pattern of files.
        column: The column that holds the markup, in tables and databases; None to tell by its name.
        table: The table of a database; None for the one that has such a column.

    Raises:
        InputError: it cannot be read; the message says where and what was expected.
    """
    path = Path(source)
    try:
        if path.is_dir():
            yield from files.of_folder(source, path)
            return
        if not path.is_file():
            named = sorted(glob(source, recursive=True)) if has_magic(source) else []  # noqa: PTH207 (patterns may be absolute)
            if not named:
                raise InputError(f"{source}: there is no such file or folder. Give a folder, a feed, a table or HTML.")
            for each in named:
                if Path(each).is_file():
                    yield from files.of_file(source, Path(each), each)
            return
        with path.open("rb") as file:
            first = file.read(4096)
    except (OSError, ValueError) as error:
        raise InputError(f"{source}: it cannot be read: {getattr(error, 'strerror', None) or error}.") from None
    bare = first.removeprefix(b"\xef\xbb\xbf").lstrip()
    if first.startswith(_SQLITE):
        yield from tables.of_database(source, path, column, table)
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
