"""Files beside a tray that the program writes and reads again."""

from __future__ import annotations

from pathlib import Path
from typing import TypeVar

import msgspec
from msgspec import Struct

from verse_tray.model.errors import InputError

T = TypeVar("T")


def read_memory(path: Path, kind: type[T], form: str, without: str) -> T:
    """Return what a file remembers; nothing where there is no such file.

    Args:
        path: The file: JSON.
        kind: The record in it; it has a ``format``.
        form: The format that this version knows.
        without: What to do where it cannot be read.

    Raises:
        InputError: it cannot be read.
    """
    try:
        found = msgspec.json.decode(path.read_bytes(), type=kind)
    except FileNotFoundError:
        return kind()
    except (OSError, msgspec.DecodeError, RecursionError) as error:
        raise InputError(f"{path}: it cannot be read: {error}. {without}") from None
    if (said := getattr(found, "format", "")) != form:
        raise InputError(f"{path}: its format is {said!r}, and this version knows {form!r}. Update, or move it away.")
    return found


def encoded(memory: Struct) -> bytes:
    """Return the bytes of what is remembered."""
    return msgspec.json.format(msgspec.json.encode(memory), indent=2) + b"\n"
