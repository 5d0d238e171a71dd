"""Putting hosted addresses in place of local paths."""

from __future__ import annotations

from verse_tray.edit.hosted import Replaced, hosts_from, replace_paths
from verse_tray.piece.piece import Piece
from verse_tray.tabular.records import read_records
from verse_tray.tasks.files import read_text


def host_pictures(piece: Piece, hosted: str, *, scripts: bool = False) -> Replaced:
    """Put hosted addresses in place of the local paths of a piece.

    Args:
        piece: The piece.
        hosted: CSV or JSON with the columns file and address.
        scripts: Whether plain strings in scripts are replaced as well.

    Raises:
        InputError: the file cannot be used.
    """
    return replace_paths(piece, hosts_from(read_records(read_text(hosted), hosted)), scripts=scripts)
