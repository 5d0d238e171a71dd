"""The author's own picture files, put into pages in place of addresses."""

from __future__ import annotations

import base64
import mimetypes
from pathlib import Path
from urllib.parse import unquote, urlsplit

from verse_tray.markup.addresses import clean
from verse_tray.model.inputs import read_file
from verse_tray.preview.pages.moving_pictures import held, held_address

_LARGEST = 2_000_000  # bytes; a sheet has to stay small enough to open and to send


class LocalPictures:
    """Where a piece's pictures are looked for. Nothing outside these folders is ever read."""

    def __init__(self, home: Path | None = None, folders: tuple[Path, ...] = (), *, stored: bool = False) -> None:
        """Name the places.

        Args:
            home: Folder of the piece: its relative addresses start there.
            folders: Folders in which any picture is looked for by its file name.
            stored: Whether pages hold a short token for each picture, which :attr:`store` resolves.
        """
        self._home = home
        self._folders = folders
        self._stored = stored
        self._found: dict[str, str | None] = {}
        self.store: list[str] = []
        """The pictures as ``data:`` addresses, in the order of their tokens."""

    def address(self, written: str) -> str | None:
        """Return what stands in a page for an address, in which nothing moves: a ``data:`` address or a token.

        None where the address itself may stand: there is no file, or it holds a picture that does not move.
        """
        if written not in self._found:
            path = self._find(written)
            data = held_address(written) if path is None else _data(path)
            if data is not None and self._stored:
                self.store.append(data)
                data = f"tray-picture:{len(self.store) - 1}:"
            self._found[written] = data
        return self._found[written]

    def file(self, written: str) -> tuple[bytes, str] | None:
        """Return a picture's file and its media type; None when there is none."""
        path = self._find(written)
        try:
            return None if path is None else (read_file(path), mimetypes.guess_type(path.name)[0] or "")
        except OSError:
            return None

    def _find(self, written: str) -> Path | None:
        try:
            parts = urlsplit(clean(written))
        except ValueError:
            return None
        relative = unquote(parts.path)
        name = Path(relative).name
        if not name or not (mimetypes.guess_type(name)[0] or "").startswith("image/"):
            return None
        if self._home is not None and not parts.scheme and not parts.netloc and not relative.startswith("/"):
            found = _inside(self._home, relative)
            if found is not None:
                return found
        return next((found for folder in self._folders if (found := _inside(folder, name)) is not None), None)


def _inside(folder: Path, relative: str) -> Path | None:
    """Return a file inside a folder; None when there is none, or when it stands elsewhere, links followed."""
    try:
        path = (folder / relative).resolve()
        if path.is_relative_to(folder.resolve()) and path.is_file() and path.stat().st_size <= _LARGEST:
            return path
    except (OSError, ValueError):  # a name that no file can have, or one that may not be read: a box is shown
        pass
    return None


def _data(path: Path) -> str | None:
    try:
        kind = mimetypes.guess_type(path.name)[0]
        return f"data:{kind};base64,{base64.b64encode(held(read_file(path))).decode('ascii')}"
    except OSError:
        return None
