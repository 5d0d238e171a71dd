"""Filling the marks of a piece from records: which of them, and into which files."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path

from msgspec import Struct

from verse_tray.fields.fill import Filled, Template, extremes, folded
from verse_tray.fields.marks import mark_form
from verse_tray.model.decoding import RECORD
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import hold_text
from verse_tray.model.phrasing import listed, spelling
from verse_tray.piece.piece import Piece
from verse_tray.tabular.records import Records, read_records
from verse_tray.tasks.files import read_piece, read_text


class FillRequest(Struct, frozen=True):
    """Which piece is filled with what."""

    file: str
    """The piece with marks."""
    data: str | None = None
    """CSV or JSON with the records; None when there are only the fixed values."""
    values: dict[str, str] = {}
    """Fixed values, which win over a record's."""
    record: str | None = None
    """The record, as ``--record`` names it; None for all."""
    extremes: bool = False
    """Whether only the records worth looking at are filled in."""
    mark: str = "{{NAME}}"
    """Form of the marks."""
    blank: bool = False
    """Whether nothing is left where a value is missing, and not the mark."""
    out: Path | None = None
    """Where the filled pieces go: ``{}`` is the record's number, ``{FIELD}`` a value of it."""


class FilledPiece(Struct, frozen=True):
    """A piece filled from one record."""

    number: int
    """Number of the record, 0-based."""
    filled: Filled
    """The text, and what was missing."""
    path: Path | None
    """Where it goes; None for standard output."""
    data: bytes
    """The text in the encoding of the piece."""


class Filling:
    """A piece and its records, read and chosen."""

    def __init__(self, request: FillRequest, piece: Piece | None = None) -> None:
        """Read them.

        Args:
            request: What is filled with what.
            piece: The piece, where it is another than what stands in the file.

        Raises:
            InputError: a file, the form of the marks or the chosen record cannot be used.
        """
        self._request = request
        self.template = Template((piece or read_piece(request.file)).source, mark_form(request.mark))
        """The piece."""
        self.records = (
            Records("--set", tuple(request.values), ({},), (0,))
            if request.data is None
            else read_records(read_text(request.data), request.data)
        )
        """The records."""
        if not self.records.rows:
            raise InputError(f"{self.records.name}: there is a header row in it and no record. Give at least one.")
        self._hold_settings()
        self.worth_looking = extremes(self.template, self.records.rows) if request.extremes else []
        """Why a record is worth looking at, and its number (0-based), where that was asked for."""
        self.chosen = self._chosen()
        """Numbers of the records that are filled in, 0-based."""
        self.paths = (
            [None] * len(self.chosen)
            if request.out is None
            else named_outputs(request.out, self.records, self.chosen, request.values)
        )
        """Where each of them goes; None for standard output."""

    @property
    def unused(self) -> list[str]:
        """The columns of the records that no mark and no name of a file asks for."""
        if self._request.data is None:
            return []
        return [column for column in self.records.columns if not self._asks_for(column)]

    def _asks_for(self, field: str) -> bool:
        """Tell whether a mark, or the name of the files that are written, stands for a field."""
        named = re.findall(r"\{([^{}]+)\}", str(self._request.out or ""))
        return self.template.names_field(field) or folded(field) in map(folded, named)

    def _hold_settings(self) -> None:
        for name in self._request.values:
            if self.template.marks and not self._asks_for(name):
                known = self.template.names
                raise InputError(
                    f"--set {name}: {self._request.file} has no mark of that name{spelling(name, known, 0.6)} It has "
                    f"{listed(known, 8)}."
                )

    def heading(self, number: int) -> str:
        """Return what sets a record apart from others that are written behind one another."""
        return f"<!-- {self.title(number)[2:].capitalize()} -->"

    def title(self, number: int) -> str:
        """Return what tells a record from the others, to stand behind the name of the piece."""
        why = next((why for why, each in self.worth_looking if each == number), "")
        return f"{RECORD}{number + 1} of {len(self.records.rows)}{f': {why}' if why else ''}"

    def _chosen(self) -> list[int]:
        request, records = self._request, self.records
        if request.extremes:
            return [number for _, number in self.worth_looking]
        if request.record is not None:
            return [record_number(request.record, records)]
        if len(records.rows) > 1 and request.out is None:
            raise InputError(
                f"{records.name} has {len(records.rows):,} records. Choose one with --record NUMBER, or write one file "
                "each with -o 'folder/{}.html'; --extremes shows those worth looking at."
            )
        return list(range(len(records.rows)))

    def filled(self) -> Iterator[FilledPiece]:
        """Yield the piece filled from each record."""
        request, source = self._request, self.template.source
        for number, path in zip(self.chosen, self.paths, strict=True):
            made = self.template.fill({**self.records.rows[number], **request.values}, blank=request.blank)
            yield FilledPiece(number, made, path, source.encode(made.text))


def filled_views(file: str, data: str, *, record: str | None, extremes: bool, mark: str) -> FillRequest:
    """Return what a preview fills a piece with: the records that were asked for, or the first."""
    return FillRequest(file, data, {}, None if extremes else record or "1", extremes, mark)


def fixed_values(given: Iterable[str]) -> dict[str, str]:
    """Return the values of ``--set``.

    Raises:
        InputError: one of them has no equals sign.
    """
    values = {}
    for each in given:
        name, equals, value = each.partition("=")
        if not equals or not name.strip():
            raise InputError(f"--set {each!r}: expected FIELD=VALUE, such as --set name=Maren.")
        values[name.strip()] = hold_text(value, f"--set {name}")
    return values


def record_number(given: str, records: Records) -> int:
    """Return the number (0-based) of the record that ``--record`` names.

    Raises:
        InputError: there is none.
    """
    count = len(records.rows)
    if given.isdecimal() and len(given) < 20:  # longer ones are no numbers of records
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


def named_outputs(out: Path, records: Records, chosen: list[int], values: Mapping[str, str]) -> list[Path | None]:
    """Return a path for each record: ``{}`` in it is the record's number, ``{FIELD}`` a value of it.

    Raises:
        InputError: several records would be written to one path, or a field does not exist.
    """
    paths: list[Path | None] = []
    width = len(str(len(records.rows)))
    for number in chosen:
        row = {folded(name): each for name, each in {**records.rows[number], **values}.items()}

        def value(match: re.Match[str], number: int = number, row: dict[str, str] = row) -> str:
            if not match[1]:
                return str(number + 1).zfill(width)
            if folded(match[1]) not in row:
                known = (*records.columns, *values)
                raise InputError(
                    f"-o {out}: there is no field {match[1]!r}{spelling(match[1], known)} There are {listed(known, 8)}."
                )
            return re.sub(r"[^\w.-]+", "-", row[folded(match[1])]).strip("-.") or "empty"

        paths.append(Path(re.sub(r"\{([^{}]*)\}", value, str(out))))
    _hold_apart(out, paths)
    return paths


def _hold_apart(out: Path, paths: list[Path | None]) -> None:
    """Refuse names that are one name, or become one where capitals do not count, as on many systems."""
    seen: dict[str, Path | None] = {}
    for path in paths:
        other = seen.setdefault(str(path).casefold(), path)
        if other is not path:
            same = f"to {path}" if path == other else f"to {other} and {path}, which many systems take for one"
            raise InputError(
                f"-o {out}: more than one record would be written {same}. Put {{}} into the name, the record's number."
            )
