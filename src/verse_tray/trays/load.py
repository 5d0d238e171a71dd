"""A tray from disk: its file, and whether what it names is there, inside its folder."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from verse_tray.config.settings import read_settings
from verse_tray.model.errors import InputError, ProfileFault, SettingsError
from verse_tray.trays.records import Tray, TrayPiece

FILE = "tray.toml"
"""The file that makes a folder a tray."""


class LoadedTray:
    """A tray, and where it is."""

    def __init__(self, folder: Path, tray: Tray) -> None:
        self.folder = folder
        """Its folder."""
        self.tray = tray
        """What its file says."""

    def files_of(self, piece: TrayPiece) -> Iterator[Path]:
        """Yield the files that a piece is made of, as far as they stand in the tray."""
        named = [*piece.parts, *piece.make[1:]]
        named += [each for each in (piece.values, piece.hosted) if each is not None]
        for each in named:
            path = self.folder / each
            if not each.startswith("-") and _is_file(path):
                yield path

    def described(self, piece: TrayPiece) -> list[Path]:
        """Return the folders of the sites and profiles of the author's that a piece names by a path."""
        found = []
        for named in dict.fromkeys((*(spot.page for spot in piece.on), *piece.editors)):
            if (path := self.beside(named)) is not None:
                found.append(path if path.is_dir() else path.parent)
        return list(dict.fromkeys(found))

    def beside(self, named: str) -> Path | None:
        """Return the path that a site, an editor, or a page or variant of one is named by; None for a plain name."""
        for text in (named, named.rpartition(":")[0]):
            if text and (path := self.folder / text).exists():
                return path
        return None


def is_tray(folder: Path) -> bool:
    """Tell whether a folder is a tray."""
    return _is_file(folder / FILE)


def load_tray(folder: Path) -> LoadedTray:
    """Load the tray of a folder.

    Raises:
        InputError: the folder is none.
        SettingsError: its file cannot be used, or it names what is not there; every fault is named.
    """
    path = folder / FILE
    if not is_tray(folder):
        raise InputError(
            f"There is no {FILE} in {folder if str(folder) != '.' else 'this folder'}. Name a piece, or begin a tray "
            "with: verse-tray new FOLDER"
        )
    tray, text = read_settings(path, Tray, "tray")
    loaded = LoadedTray(folder, tray)
    faults = [fault for name, piece in tray.pieces.items() for fault in _faults(loaded, name, piece)]
    if faults:
        from verse_tray.config.toml_text import locate

        placed = [ProfileFault(key, message, *locate(text, key)) for key, message in faults]
        raise SettingsError(str(path), sorted(placed, key=lambda each: each.line or 0), "tray")
    return loaded


def _faults(tray: LoadedTray, name: str, piece: TrayPiece) -> Iterator[tuple[str, str]]:
    key = f"pieces.{name}"
    if not re.fullmatch(r"[A-Za-z0-9][\w-]*", name):
        yield key, "a piece's name is written with letters, digits and hyphens"
    if bool(piece.parts) == bool(piece.make):
        yield key, "a piece has parts, or is made with make: write one of the two"
    if piece.libraries and len(piece.parts) < 2:
        yield f"{key}.libraries", "libraries go with several parts; write them into a single piece itself"
    named = [(f"parts[{number}]", each) for number, each in enumerate(piece.parts)]
    named += [(what, each) for what, each in (("values", piece.values), ("hosted", piece.hosted)) if each is not None]
    for what, each in named:
        path = tray.folder / each
        if not _is_inside(tray.folder, path):
            yield f"{key}.{what}", f"{each} is not in the folder of the tray; put a copy there"
        elif not _is_file(path):
            yield f"{key}.{what}", f"there is no file {each} in the folder of the tray"
    for number, each in enumerate(piece.pictures):
        if not _is_inside(tray.folder, tray.folder / each) or not (tray.folder / each).is_dir():
            yield f"{key}.pictures[{number}]", f"there is no folder {each} in the folder of the tray"


def _is_inside(folder: Path, path: Path) -> bool:
    try:
        return path.resolve().is_relative_to(folder.resolve())
    except (OSError, ValueError, RuntimeError):
        return False


def _is_file(path: Path) -> bool:
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False
