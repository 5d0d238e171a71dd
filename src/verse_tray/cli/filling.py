"""What ``verse-tray fill`` chooses, names and tells."""

from __future__ import annotations

import re
from pathlib import Path
from typing import TYPE_CHECKING

from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed, spelling

if TYPE_CHECKING:
    from verse_tray.fields.fill import Filled
    from verse_tray.tabular.records import Records

MOST_TOLD = 10
"""Records of which it is told what they lack; of the others, how many they are."""
_TOLD = 6


def fixed_values(given: list[str]) -> dict[str, str]:
    """Return the values of ``--set``.

    Raises:
        InputError: one of them has no equals sign.
    """
    values = {}
    for each in given:
        name, equals, value = each.partition("=")
        if not equals or not name.strip():
            raise InputError(f"--set {each!r}: expected FIELD=VALUE, such as --set name=Maren.")
        values[name.strip()] = value
    return values


def record_number(given: str, records: Records) -> int:
    """Return the number (0-based) of the record that ``--record`` names.

    Raises:
        InputError: there is none.
    """
    count = len(records.rows)
    if given.isdecimal():
        if not 1 <= int(given) <= count:
            raise InputError(f"--record {given}: {records.name} has the records 1 to {count:,}.")
        return int(given) - 1
    column, equals, value = given.partition("=")
    if not equals:
        raise InputError(f"--record {given!r}: expected a number from 1 on, or FIELD=VALUE.")
    if column not in records.columns:
        known = listed(records.columns, 8)
        raise InputError(
            f"--record {given!r}: {records.name} has no field {column!r}{spelling(column, records.columns)} It has "
            f"{known}."
        )
    for number, row in enumerate(records.rows):
        if row.get(column, "") == value:
            return number
    raise InputError(f"--record {given!r}: no record of {records.name} has that value.")


def named_outputs(out: Path, records: Records, chosen: list[int], values: dict[str, str]) -> list[Path]:
    """Return a path for each record: ``{}`` in it is the record's number, ``{FIELD}`` a value of it.

    Raises:
        InputError: several records would be written to one path, or a field does not exist.
    """
    paths: list[Path] = []
    width = len(str(len(records.rows)))
    for number in chosen:
        row = {**records.rows[number], **values}

        def value(match: re.Match[str], number: int = number, row: dict[str, str] = row) -> str:
            if not match[1]:
                return str(number + 1).zfill(width)
            if match[1] not in row:
                raise InputError(f"-o {out}: there is no field {match[1]!r}{spelling(match[1], row)}")
            return re.sub(r"[^\w.-]+", "-", row[match[1]]).strip("-.") or "empty"

        paths.append(Path(re.sub(r"\{([^{}]*)\}", value, str(out))))
    if len(set(paths)) < len(paths):
        twice = next(path for path in paths if paths.count(path) > 1)
        raise InputError(
            f"-o {out}: more than one record would be written to {twice}. Put {{}} into the name, the record's number."
        )
    return paths


def tell(name: str, filled: Filled, number: int | None) -> None:
    """Say on standard error what was missing in a record."""
    from verse_tray.cli.files import note

    which = "" if number is None else f" (record {number + 1})"
    for finding in filled.findings[:_TOLD]:
        note(
            f"{name}:{finding.line}:{finding.column}{which}: {finding.severity.value}: {finding.message} "
            f"[{finding.rule}]"
        )
    if len(filled.findings) > _TOLD:
        note(f"{name}{which}: and {len(filled.findings) - _TOLD} more.")
