"""Files of the author's, in and out."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from verse_tray.model.decoding import LARGEST_BYTES, LARGEST_DATA_BYTES, Source, decode
from verse_tray.model.errors import InputError, OutputError
from verse_tray.piece.piece import Piece


def read_piece(name: str) -> Piece:
    """Read a piece from a file, or from standard input for ``-``.

    Raises:
        InputError: it cannot be read, or it is empty.
    """
    source = decode(_read(name), name)
    if not source.text.strip():
        raise InputError(f"{name}: there is nothing in it. Give a file of HTML.")
    return Piece(source)


def read_source(name: str) -> Source:
    """Read a text file of any kind, or standard input for ``-``; markup may declare its encoding.

    Raises:
        InputError: it cannot be read.
    """
    return decode(_read(name, markup=False), name, markup=name.lower().endswith((".html", ".htm")))


def read_text(name: str) -> str:
    """Read the text of a file that is no markup, or standard input for ``-``.

    Raises:
        InputError: it cannot be read.
    """
    return decode(_read(name, markup=False), name, markup=False).text


def _read(name: str, *, markup: bool = True) -> bytes:
    most = LARGEST_BYTES if markup else LARGEST_DATA_BYTES
    try:
        if name == "-":
            return sys.stdin.buffer.read(most + 1)
        with open(name, "rb") as file:
            return file.read(most + 1)
    except IsADirectoryError:
        raise InputError(f"{name}: this is a folder. Give a file.") from None
    except FileNotFoundError:
        what = "a file of HTML" if markup else "a file"
        raise InputError(f"{name}: there is no such file. Give {what}, or - to read standard input.") from None
    except (OSError, ValueError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise InputError(f"{name}: it cannot be read: {reason}.") from None


def home_of(name: str) -> Path | None:
    """Return the folder that a piece's relative addresses start from; None for standard input."""
    return None if name == "-" else Path(name).parent


def write_whole(path: Path, data: bytes) -> None:
    """Write a file whole or not at all. A link stays one; what is no file (a pipe, a device) is written to as it is.

    Raises:
        OutputError: it cannot be written; what stood there before still does.
    """
    import tempfile  # few commands write

    temporary = None
    try:
        if path.exists() and not path.is_file():
            path.write_bytes(data)
            return
        target = Path(os.path.realpath(path))
        target.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(prefix=f".{target.name}.", dir=target.parent)
        temporary = Path(name)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        mode = target.stat().st_mode & 0o777 if target.exists() else 0o666 & ~_mask()
        temporary.chmod(mode)
        temporary.replace(target)
        temporary = None
    except OSError as error:
        raise OutputError(f"{path}: it cannot be written: {error.strerror or error}.") from None
    finally:
        if temporary is not None:
            temporary.unlink()


def _mask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def keep(path: Path) -> Path:
    """Write a file, byte for byte, beside it under a name that nothing has."""
    number = 1
    kept = path.with_name(f"{path.name}.bak")
    while kept.exists():
        number += 1
        kept = path.with_name(f"{path.name}.bak{number}")
    write_whole(kept, path.read_bytes())
    return kept
