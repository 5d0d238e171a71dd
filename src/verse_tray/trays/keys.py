"""Hashes of all that an answer depends on: as long as they are the same, the answer is."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from pathlib import Path

import msgspec

from verse_tray.trays.load import LoadedTray
from verse_tray.trays.records import TrayPiece

_MOST_FILES = 200


def piece_key(tray: LoadedTray, name: str, version: str) -> str:
    """Return the hash of a piece: its files, its settings, and the profiles and sites of the author's that it names.

    Args:
        tray: The tray.
        name: The piece's name.
        version: Version of the program.
    """
    piece = tray.tray.pieces[name]
    found = hashlib.sha256(f"{version}\0{name}\0".encode())
    found.update(msgspec.json.encode(piece))
    for path in (*tray.files_of(piece), *_described(tray, piece)):
        found.update(f"\0{path.relative_to(tray.folder) if path.is_relative_to(tray.folder) else path}\0".encode())
        found.update(path.read_bytes())
    return found.hexdigest()[:32]


def _described(tray: LoadedTray, piece: TrayPiece) -> Iterable[Path]:
    """Yield the files of sites and profiles that a piece names by a path."""
    for folder in tray.described(piece):  # a site's folder may hold the folders of its editors
        found = [path for path in folder.rglob("*") if path.suffix in (".toml", ".html", ".css") and path.is_file()]
        yield from sorted(found)[:_MOST_FILES]


def version_of(text: str) -> str:
    """Return the hash of a paste's text."""
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()[:16]
