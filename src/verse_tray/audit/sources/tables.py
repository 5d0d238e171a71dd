"""Tables with a column of markup: CSV, JSON Lines, SQLite, Parquet."""

from __future__ import annotations

import csv
import io
import json
import sqlite3
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Any
from urllib.parse import quote

from verse_tray.audit.post import Post
from verse_tray.model.errors import InputError, not_installed
from verse_tray.model.phrasing import listed, spelling

_MARKUP = ("content", "html", "content_html", "markup", "body", "post_content")
_NAMES = ("name", "id", "slug", "guid", "title", "url", "address")
_ADDRESSES = ("url", "address", "link", "permalink")
_DATES = ("date", "published", "post_date", "created", "updated")
_ROWS = 64  # of Parquet, in memory at once
_MOST_CELL = 40_000_000  # characters


def _first(names: tuple[str, ...], columns: Iterable[str]) -> str | None:
    """Return the first of some names that a column has, whatever its capitals."""
    known = {column.lower(): column for column in columns}
    return next((known[name] for name in names if name in known), None)


class _Columns:
    """Which column of a table is what."""

    def __init__(self, where: str, columns: list[str], column: str | None) -> None:
        """Find them.

        Raises:
            InputError: the column of markup is not there, or none is named like one.
        """
        found = column if column is not None else _first(_MARKUP, columns)
        if found is None or found not in columns:
            near = spelling(column, columns, 0.5) if column is not None else ". Name the one that holds it: --column."
            what = f"there is no column {column}" if column is not None else "no column is named like one of markup"
            raise InputError(f"{where}: {what}{near} There are {listed(columns, 20) if columns else 'none'}.")
        self.markup = found
        self._name, self._address, self._date = (_first(each, columns) for each in (_NAMES, _ADDRESSES, _DATES))

    @property
    def needed(self) -> list[str]:
        """The columns that a piece is made of."""
        found = (self.markup, self._name, self._address, self._date)
        return list(dict.fromkeys(each for each in found if each is not None))

    def post(self, source: str, number: int, row: Mapping[str, Any], read: float) -> Post:
        """Return the piece of a row."""

        def text(column: str | None) -> str:
            value = row.get(column) if column is not None else None
            return "" if value is None else value.decode("utf-8", "replace") if isinstance(value, bytes) else str(value)

        name = text(self._name) or str(number)
        return Post(source, name, text(self.markup), text(self._address), text(self._date), min(1.0, read))


def of_csv(source: str, path: Path, column: str | None) -> Iterator[Post]:
    """Yield the rows of a CSV file with a header row, one by one.

    Raises:
        InputError: it is no UTF-8, a column is missing, or a row has more cells than there are columns.
    """
    csv.field_size_limit(_MOST_CELL)
    try:
        size = max(1, path.stat().st_size)
        with path.open("rb") as data, io.TextIOWrapper(data, "utf-8-sig", newline="") as file:
            start = file.read(4096).split("\n")[0]
            file.seek(0)
            delimiter = max(",;\t|", key=start.count)
            reader = csv.DictReader(file, delimiter=delimiter, strict=True)
            columns = _Columns(str(path), list(reader.fieldnames or ()), column)
            for number, row in enumerate(reader, 1):
                if None in row:
                    told = (
                        f"{path}:{reader.line_num}: this row has more cells than there are columns. Quote its commas."
                    )
                    raise InputError(told)
                yield columns.post(source, number, row, data.tell() / size)
    except UnicodeDecodeError as error:
        raise InputError(f"{path}: byte 0x{error.object[error.start]:02x} is not UTF-8. Save it as UTF-8.") from None
    except csv.Error as error:
        raise InputError(f"{path}: this CSV cannot be read: {error}.") from None


def of_json_lines(source: str, path: Path, column: str | None) -> Iterator[Post]:
    """Yield the objects of a file that has one a line.

    Raises:
        InputError: a line is no JSON object, or the column is missing.
    """
    columns: _Columns | None = None
    size = max(1, path.stat().st_size)
    with path.open("rb") as file:
        for number, line in enumerate(file, 1):
            if not line.strip():
                continue
            try:
                row = json.loads(line)
            except (ValueError, RecursionError) as error:
                raise InputError(f"{path}:{number}: this line is no JSON: {getattr(error, 'msg', error)}.") from None
            if not isinstance(row, dict):
                raise InputError(f"{path}:{number}: this line is no JSON object.")
            columns = columns or _Columns(f"{path}:{number}", list(row), column)
            yield columns.post(source, number, row, file.tell() / size)


def of_database(source: str, path: Path, column: str | None, table: str | None) -> Iterator[Post]:
    """Yield the rows of a table of an SQLite database, one by one; nothing is written to it.

    Raises:
        InputError: it cannot be read, or no table has such a column.
    """
    try:
        connection = sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True)
    except sqlite3.Error as error:
        raise InputError(f"{path}: this database cannot be opened: {error}.") from None
    try:
        named = "SELECT name FROM sqlite_master WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite_%'"
        tables = [str(row[0]) for row in connection.execute(named)]
        if table is not None and table not in tables:
            raise InputError(
                f"{path}: there is no table {table}{spelling(table, tables)} There are {listed(tables, 20)}."
            )
        chosen = [table] if table is not None else [each for each in tables if _has(connection, each, column)]
        if len(chosen) != 1:
            told = "several tables have" if chosen else "no table has"
            raise InputError(
                f"{path}: {told} such a column. Name the table with --table, and the column with --column. There are "
                f"{listed(chosen or tables, 20) if tables else 'no tables'}."
            )
        quoted = '"' + chosen[0].replace('"', '""') + '"'
        count = max(1, int(connection.execute(f"SELECT count(*) FROM {quoted}").fetchone()[0]))
        cursor = connection.execute(f"SELECT * FROM {quoted}")
        names = [str(each[0]) for each in cursor.description]
        columns = _Columns(f"{path}, table {chosen[0]}", names, column)
        for number, row in enumerate(cursor, 1):
            yield columns.post(source, number, dict(zip(names, row, strict=True)), number / count)
    except sqlite3.Error as error:
        raise InputError(f"{path}: this database cannot be read: {error}.") from None
    finally:
        connection.close()


def of_parquet(source: str, path: Path, column: str | None) -> Iterator[Post]:
    """Yield the rows of a Parquet file, a few at a time, and of its columns just those that are needed.

    Raises:
        InputError: it cannot be read, a column is missing, or pyarrow is.
    """
    try:
        from pyarrow import ArrowException
        from pyarrow.parquet import ParquetFile
    except ImportError as error:
        raise InputError(not_installed(f"{path}: Parquet", error, "audit")) from None
    try:
        with ParquetFile(path) as file:
            columns = _Columns(str(path), list(file.schema_arrow.names), column)
            count = max(1, file.metadata.num_rows)
            number = 0
            for batch in file.iter_batches(_ROWS, columns=columns.needed):
                for row in batch.to_pylist():
                    number += 1
                    yield columns.post(source, number, row, number / count)
    except (ArrowException, OSError) as error:
        raise InputError(f"{path}: this Parquet file cannot be read: {error}.") from None


def _has(connection: sqlite3.Connection, table: str, column: str | None) -> bool:
    """Tell whether a table has a column of markup."""
    names = [str(row[1]) for row in connection.execute(f'PRAGMA table_info("{table.replace(chr(34), chr(34) * 2)}")')]
    return column in names if column is not None else _first(_MARKUP, names) is not None
