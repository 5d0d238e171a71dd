"""Which piece is sent, and where to: names of a tray, files, sites."""

from __future__ import annotations

import os
from pathlib import Path
from typing import NamedTuple

from verse_tray.editors.load import Editor, load_editor
from verse_tray.editors.sending import Sending
from verse_tray.exchange.tokens import Token, read_token
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed, spelling
from verse_tray.piece.piece import Piece
from verse_tray.tasks.files import read_piece
from verse_tray.trays.load import is_tray, load_tray


class Target(NamedTuple):
    """A site that pieces are sent to."""

    name: str
    """What it is called in the memory: a name, or its folder or file, from the folder of the memory."""
    sending: Sending
    """How."""
    folder: Path
    """The folder that its editor and its token are named from."""

    @property
    def editor(self) -> Editor:
        """Its editor.

        Raises:
            UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
        """
        return load_editor(self.editor_name)

    @property
    def editor_name(self) -> str:
        """Name of its editor, or its path."""
        name = self.sending.editor
        beside = self.folder / name.partition(":")[0]
        return str(self.folder / name) if beside.exists() and ("/" in name or "." in name) else name

    def editor_from(self, home: Path) -> str:
        """Return the name of its editor, or its path from a folder."""
        name = self.editor_name
        return from_folder(name, home) if name != self.sending.editor or Path(name).exists() else name

    def token(self) -> Token:
        """Read its token.

        Raises:
            InputError: see :func:`verse_tray.exchange.tokens.read_token`.
        """
        return read_token(self.sending.token, self.folder)


def target_of(to: str, home: Path) -> Target:
    """Return the site of a name in the tray of a folder, or of the name, folder or file of a site.

    Raises:
        InputError: nothing says how to send to it.
        UnknownSiteError, SettingsError: see :func:`verse_tray.sites.load.load_site`.
    """
    names: list[str] = []
    if is_tray(home):
        tray = load_tray(home).tray
        if to in tray.sites:
            return Target(to, tray.sites[to], home)
        names = list(tray.sites)
    from verse_tray.sites.load import load_site

    if names and not Path(to).exists():
        raise InputError(f"There is no site {to} in tray.toml{spelling(to, names)} There are {listed(names, 9)}.")
    site = load_site(within(to, home))
    if site.site.sending is None:
        raise InputError(
            f"{to}: this site does not say how to send to it. Add a table [sending] with address, editor and token to "
            "its site.toml; docs/sending.md shows one."
        )
    named = within(to, home)
    return Target(from_folder(named, home) if Path(named).exists() else to, site.site.sending, site.folder)


def from_folder(path: str, home: Path) -> str:
    """Return a path from a folder on; a variant behind a colon stays."""
    bare, colon, variant = path.rpartition(":") if not Path(path).exists() and ":" in path else (path, "", "")
    return Path(os.path.relpath(bare, home)).as_posix() + colon + variant


def within(name: str, home: Path) -> str:
    """Return a name, or the path that it is: from this folder, or else from the folder of a memory."""
    beside = home / name
    return str(beside) if not Path(name).exists() and (beside.exists() or _named(beside).exists()) else name


def _named(path: Path) -> Path:
    """Return a path without a variant behind a colon."""
    return path.with_name(path.name.partition(":")[0]) if path.name else path


class Chosen(NamedTuple):
    """A piece that is to be sent or verified."""

    piece: Piece
    """The piece."""
    name: str
    """What it is called in the memory."""
    home: Path
    """The folder of the memory."""
    pictures: Path
    """The folder that its local paths begin in."""


def chosen(name: str) -> Chosen:
    """Return a piece of the tray in this folder, or a file; with the folder that remembers what was sent.

    Raises:
        InputError, SettingsError: it cannot be used.
    """
    here = Path()
    if is_tray(here) and not Path(name).exists():
        from verse_tray.tasks.tray import TrayAtWork

        tray = TrayAtWork(here)
        if name in tray.pieces:
            return Chosen(tray.piece(name), name, here, here)
    piece = read_piece(name)
    if name == "-":
        raise InputError("-: a piece that is sent has a name, to be found again by. Write it into a file.")
    home = here if is_tray(here) else Path(name).parent
    try:
        called = Path(name).resolve().relative_to(home.resolve()).as_posix()
    except ValueError:
        called = Path(name).name
    return Chosen(piece, called, home, Path(name).parent)
