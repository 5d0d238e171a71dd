"""The columns that a command of ``make`` reads from a file."""

from __future__ import annotations

from typing import TYPE_CHECKING

from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed, spelling

if TYPE_CHECKING:
    from verse_tray.tabular.records import Records


def need(records: Records, needed: tuple[str, ...], others: tuple[str, ...] = ()) -> None:
    """Hold the columns of a file against those that are needed, and those that may be there.

    Raises:
        InputError: one is missing, or nobody knows it.
    """
    for column in needed:
        if column not in records.columns:
            raise InputError(
                f"{records.name}: the column {column!r} is missing; it has {listed(records.columns, 8)}. Expected: "
                f"{listed((*needed, *others), 9)}."
            )
    for column in records.columns:
        if column not in needed + others:
            near = spelling(column, needed + others, 0.6)
            raise InputError(
                f"{records.name}: nobody reads the column {column!r}{near} Expected: {listed((*needed, *others), 9)}."
            )
