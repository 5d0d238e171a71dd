"""Which piece is sent, and where to: names of a tray, files, sites."""

from __future__ import annotations

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
    """What it is called."""
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
        """Name or path of its editor."""
        name = self.sending.editor
        beside = self.folder / name.partition(":")[0]
        return str(self.folder / name) if beside.exists() and ("/" in name or "." in name) else name

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
    site = load_site(to)
    if site.site.sending is None:
        raise InputError(
            f"{to}: this site does not say how to send to it. Add a table [sending] with address, editor and token to "
            "its site.toml; docs/sending.md shows one."
        )
    return Target(to, site.site.sending, site.folder)


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
        return Chosen(piece, "-", here, here)
    home = here if is_tray(here) else Path(name).parent
    try:
        called = Path(name).resolve().relative_to(home.resolve()).as_posix()
    except ValueError:
        called = Path(name).name
    return Chosen(piece, called, home, Path(name).parent)
