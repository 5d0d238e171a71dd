"""Filters of an audit, such as ``verdict=broken and editor=course-page``, as questions to its store."""

from __future__ import annotations

import re
from typing import NamedTuple

from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed, spelling

FIELDS = {
    "verdict": "results.verdict", "editor": "results.editor", "name": "posts.name", "source": "posts.source",
    "address": "posts.address", "date": "posts.date", "size": "posts.size", "stored": "results.stored",
    "alike": "results.alike", "full": "results.full * 100", "rule": "",
}  # fmt: skip
"""What can be asked for, and the column that it is; ``rule`` is any of the rules that hurt a piece."""
_NUMBERS = frozenset(("size", "stored", "alike", "full"))
_PART = re.compile(r"\s*(?:(and|or)\b|([A-Za-z]+)\s*(!=|<=|>=|=|<|>|~)\s*(\"[^\"]*\"|'[^']*'|[^\s]+))", re.IGNORECASE)


class Where(NamedTuple):
    """A condition for SQL, and the values in it."""

    sql: str
    values: tuple[str | float, ...]


EVERYTHING = Where("1", ())
"""The condition that all fulfil."""


def where(text: str) -> Where:
    """Read a filter: comparisons joined by *and* and *or*; signs are ``= != < > <= >=``, and ``~`` for *holds*.

    Raises:
        InputError: it cannot be read; with column and what was expected.
    """
    if not text.strip():
        return EVERYTHING
    at = 0
    sql: list[str] = []
    values: list[str | float] = []
    joined = True
    while at < len(text.rstrip()):
        found = _PART.match(text, at)
        if found is None or bool(found[1]) == joined:
            expected = "a comparison such as verdict=broken" if joined else "and, or"
            raise InputError(
                f"--where, column {at + 1}: {expected} was expected, and there is {text[at : at + 20].strip()!r}."
            )
        if found[1]:
            sql.append(found[1].upper())
            joined = True
        else:
            condition = _comparison(found[2].lower(), found[3], found[4].strip("\"'"), at)
            sql.append(condition.sql)
            values += condition.values
            joined = False
        at = found.end()
    if joined:
        raise InputError("--where: it ends with and, or; a comparison was expected there.")
    return Where(" ".join(sql), tuple(values))


def _comparison(field: str, sign: str, value: str, at: int) -> Where:
    if field not in FIELDS:
        near = spelling(field, FIELDS, 0.5)
        raise InputError(f"--where, column {at + 1}: there is no field {field}{near} There are {listed(FIELDS, 20)}.")
    if sign == "~":
        value, sign = "%" + re.sub("([%_!])", r"!\1", value) + "%", "LIKE"
    escape = " ESCAPE '!'" if sign == "LIKE" else ""
    if field == "rule":
        no, sign = ("NOT ", "=") if sign == "!=" else ("", sign)
        inner = "SELECT 1 FROM causes WHERE causes.post = results.post AND causes.editor = results.editor"
        return Where(f"{no}EXISTS ({inner} AND causes.rule {sign} ?{escape})", (value,))
    if field in _NUMBERS and sign != "LIKE":
        try:
            return Where(f"{FIELDS[field]} {sign} ?", (float(value.replace(",", "")),))
        except ValueError:
            raise InputError(f"--where, column {at + 1}: {field} is a number, and {value!r} is none.") from None
    return Where(f"{FIELDS[field]} {sign} ?{escape}", (value,))
