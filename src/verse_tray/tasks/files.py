"""Files of the author's, read."""

from __future__ import annotations

import sys
from pathlib import Path

from verse_tray.model.decoding import LARGEST_BYTES, LARGEST_DATA_BYTES, Source, decode, page_text
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import read_file, read_stream
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


def read_page(name: str) -> str:
    """Read a page that somebody saved, or standard input for ``-``; what cannot be decoded is replaced.

    Raises:
        InputError: it cannot be read, or it is too large.
    """
    data = _read(name, markup=False)
    if len(data) > LARGEST_DATA_BYTES:
        raise InputError(f"{name}: larger than the {LARGEST_DATA_BYTES:,} bytes that are read at most.")
    return page_text(data)


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
            if sys.stdin is None:
                raise InputError("-: standard input is closed. Give a file, or send something to it.")
            return read_stream(sys.stdin.buffer, most + 1)
        return read_file(name, most + 1)
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
