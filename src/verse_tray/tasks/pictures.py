"""Putting hosted addresses in place of local paths."""

from __future__ import annotations

from pathlib import PurePath

from verse_tray.edit.hosted import Language, Replaced, hosts_from, replace_paths
from verse_tray.piece.piece import Piece
from verse_tray.tabular.records import read_records
from verse_tray.tasks.files import read_piece, read_source, read_text

_LANGUAGES: dict[str, Language] = {".css": "style", ".js": "script", ".mjs": "script"}


def read_part(name: str) -> tuple[Piece, Language]:
    """Read a piece, or a style sheet or a script of its own, as a joined piece has them; told by the file's ending.

    Raises:
        InputError: it cannot be read, or it is empty.
    """
    language = _LANGUAGES.get(PurePath(name).suffix.lower(), "markup")
    return (read_piece(name) if language == "markup" else Piece(read_source(name))), language


def host_pictures(piece: Piece, hosted: str, language: Language = "markup", *, scripts: bool = False) -> Replaced:
    """Put hosted addresses in place of the local paths of a piece.

    Args:
        piece: The piece.
        hosted: CSV or JSON with the columns file and address.
        language: What the piece is written in.
        scripts: Whether plain strings in scripts are replaced as well.

    Raises:
        InputError: the file cannot be used.
    """
    return replace_paths(piece, hosts_from(read_records(read_text(hosted), hosted)), language, scripts=scripts)
