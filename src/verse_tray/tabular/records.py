"""Rows of values from a CSV or a JSON file (RFC 4180, RFC 8259), with one clear message for what is wrong."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from verse_tray.model.errors import InputError
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted, listed

_HALF = lazy("[\ud800-\udfff]")  # half of a sign: no text can hold it
_DELIMITERS = ",;\t|"
_MOST_CELL = 200_000  # signs in one value; more is a quote that is missing


class Records(Struct, frozen=True):
    """Rows of a file."""

    name: str
    """The file, as the user named it."""
    columns: tuple[str, ...]
    """Names of the columns."""
    rows: tuple[dict[str, str], ...]
    """A mapping from column to value for each row."""
    lines: tuple[int, ...]
    """Line of the file, 1-based, in which each row begins; 0 where that means nothing."""


def read_records(text: str, name: str) -> Records:
    """Read rows from CSV text with a header row, or from JSON text: a list of objects, or one object.

    Raises:
        InputError: it is neither, its rows differ in length, or a quote is missing; with line and what was expected.
    """
    if text.lstrip("\ufeff \t\r\n").startswith(("[", "{")) and not re.match(r"\s*\[\w+\]\s*,", text):
        return _from_json(text, name)
    header, *rows = _csv_rows(text, name)
    columns = tuple(each.strip() for each in header[1])
    _columns_make_sense(columns, name, header[0])
    found, lines = [], []
    for line, values in rows:
        _hold_length(values, len(columns), columns, f"{name}:{line}")
        found.append(dict(zip(columns, values, strict=True)))
        lines.append(line)
    return Records(name, columns, tuple(found), tuple(lines))


def read_rows(text: str, name: str) -> list[list[str]]:
    """Read rows of cells from CSV text, or from JSON text: a list of lists, or of objects (their keys come first).

    Raises:
        InputError: see :func:`read_records`.
    """
    if text.lstrip("\ufeff \t\r\n").startswith("["):
        data = _json(text, name)
        if isinstance(data, list) and data and all(isinstance(row, list) for row in data):
            return [[_text(value, name, f"row {number}") for value in row] for number, row in enumerate(data, 1)]
    elif not text.lstrip("\ufeff \t\r\n").startswith("{"):
        rows = _csv_rows(text, name)
        for line, row in rows:
            _hold_length(row, len(rows[0][1]), rows[0][1], f"{name}:{line}")
        return [row for _, row in rows]  # headings may be equal, or missing, in a table
    records = read_records(text, name)
    return [list(records.columns), *([row[column] for column in records.columns] for row in records.rows)]


def _hold_length(row: Sequence[str], length: int, columns: Sequence[str], where: str) -> None:
    if len(row) != length:
        raise InputError(
            f"{where}: this row has {counted(len(row), 'value')}, and the header {length} ({listed(columns, 6)}). Give "
            "every row as many; put a value with a comma in it into quotes."
        )


def _csv_rows(text: str, name: str) -> list[tuple[int, list[str]]]:
    text = text.removeprefix("\ufeff")
    delimiter = _delimiter(text)
    csv.field_size_limit(_MOST_CELL)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
    rows: list[tuple[int, list[str]]] = []
    line = 1
    try:
        for row in reader:
            if any(value.strip() for value in row):
                rows.append((line, row))
            line = reader.line_num + 1
    except csv.Error as error:
        said = str(error)
        if "unexpected end" in said or "field larger" in said:
            why = "a quote is opened here and never closed"
        elif "expected after" in said:
            why, line = 'something follows a closing quote; write a quote inside a value twice ("")', reader.line_num
        else:
            why = said
        raise InputError(f"{name}:{line}: this row cannot be read as CSV: {why}.") from None
    if not rows:
        raise InputError(f"{name}: there are no rows in it. Give a header row and at least one row of values.")
    return rows


def _delimiter(text: str) -> str:
    first = re.sub(r'"(?:[^"]|"")*"', "", text.lstrip("\r\n").partition("\n")[0])
    return max(_DELIMITERS, key=lambda sign: (first.count(sign), -_DELIMITERS.index(sign)))


def _columns_make_sense(columns: tuple[str, ...], name: str, line: int) -> None:
    for number, column in enumerate(columns, 1):
        if not column:
            raise InputError(f"{name}:{line}: column {number} has no name in the header row. Give it one.")
        if columns.index(column) != number - 1:
            raise InputError(f"{name}:{line}: two columns are named {column!r}. Give each a name of its own.")


def _json(text: str, name: str) -> Any:
    import json

    try:
        return json.loads(text.removeprefix("\ufeff"))
    except json.JSONDecodeError as error:
        raise InputError(f"{name}:{error.lineno}:{error.colno}: this is not JSON: {error.msg}.") from None
    except ValueError:  # Python reads no whole number of more than 4,300 digits
        raise InputError(f"{name}: there is a number of thousands of digits in it. Write it as a text.") from None
    except RecursionError:
        raise InputError(f"{name}: this JSON is nested too deeply. Give a list of objects.") from None


def _from_json(text: str, name: str) -> Records:
    data = _json(text, name)
    rows = data if isinstance(data, list) else [data]
    columns: dict[str, None] = {}
    for number, row in enumerate(rows, 1):
        if not isinstance(row, dict):
            raise InputError(
                f"{name}: entry {number} is {_kind(row)}; expected an object with a value for each field, such as "
                '[{"day": "Saturday", "height": "0.4 m"}].'
            )
        columns.update(dict.fromkeys(_text(field, name, f"a field's name in entry {number}") for field in row))
    if not rows or not columns:
        raise InputError(f"{name}: there are no rows in it. Give a list of objects.")
    found = tuple(
        {column: _text(row[column], name, f"{column} of entry {number}") for column in row}
        for number, row in enumerate(rows, 1)
    )
    return Records(name, tuple(columns), found, (0,) * len(found))


def _text(value: Any, name: str, where: str) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, str):
        if _HALF.search(value):
            raise InputError(f"{name}: {where} holds half of a sign (\\ud800 to \\udfff alone). Write the whole sign.")
        return value
    if isinstance(value, int | float):
        return str(value)
    raise InputError(f"{name}: {where} is {_kind(value)}; expected a text or a number.")


def _kind(value: Any) -> str:
    return {dict: "an object", list: "a list", str: "a text", bool: "true or false"}.get(type(value), "a number")
