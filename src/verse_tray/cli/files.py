"""Files in and out, and the console."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from verse_tray.cli.exits import PipeClosed
from verse_tray.model.errors import InputError, OutputError

if TYPE_CHECKING:
    from collections.abc import Iterable

    from rich.console import Console, RenderableType

    from verse_tray.editors.load import Editor
    from verse_tray.model.decoding import Source
    from verse_tray.piece.piece import Piece


T = TypeVar("T")


def read_piece(name: str) -> Piece:
    """Read a piece from a file, or from standard input for ``-``.

    Raises:
        InputError: it cannot be read, or it is empty.
    """
    from verse_tray.model.decoding import decode
    from verse_tray.piece.piece import Piece

    source = decode(_read(name), name)
    if not source.text.strip():
        raise InputError(f"{name}: there is nothing in it. Give a file of HTML.")
    return Piece(source)


def read_source(name: str) -> Source:
    """Read a text file of any kind, or standard input for ``-``; markup may declare its encoding.

    Raises:
        InputError: it cannot be read.
    """
    from verse_tray.model.decoding import decode

    return decode(_read(name, markup=False), name, markup=name.lower().endswith((".html", ".htm")))


def read_text(name: str) -> str:
    """Read the text of a file that is no markup, or standard input for ``-``.

    Raises:
        InputError: it cannot be read.
    """
    from verse_tray.model.decoding import decode

    return decode(_read(name, markup=False), name, markup=False).text


def _read(name: str, *, markup: bool = True) -> bytes:
    from verse_tray.model.decoding import LARGEST_BYTES, LARGEST_DATA_BYTES

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


def chosen_editors(names: list[str] | None) -> list[Editor]:
    """Return the editors of that name or path.

    ``all``, or none at all, is every known one in its usual setting; ``NAME:all`` is one with all its variants.
    """
    from verse_tray.editors.load import known_editors, load_editor

    wanted: list[str] = []
    for name in names or ["all"]:
        if name == "all":
            wanted += known_editors()
        elif name.endswith(":all"):
            plain = name.removesuffix(":all")
            wanted += [plain, *(f"{plain}:{variant}" for variant in load_editor(plain).profile.variants)]
        else:
            wanted.append(name)
    return [load_editor(name) for name in dict.fromkeys(wanted)]


def write_whole(path: Path, data: bytes) -> None:
    """Write a file whole or not at all.

    Raises:
        OutputError: it cannot be written; what stood there before still does.
    """
    import tempfile

    temporary = None
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        temporary = Path(name)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_mask()
        temporary.chmod(mode)
        temporary.replace(path)
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


def console() -> Console:
    """Return the console for results."""
    from rich.console import Console

    class Screen(Console):
        def on_broken_pipe(self) -> None:
            raise PipeClosed

    return Screen(highlight=False, markup=False, emoji=False)


def show(screen: Console, parts: Iterable[RenderableType]) -> None:
    """Print the parts of a report; a bare text stands on its line however long it is, so that it can be copied."""
    from rich.text import Text

    for part in parts:
        screen.print(part, soft_wrap=isinstance(part, Text))


def with_progress(items: Iterable[T], count: int, doing: str = "Checking", many: int = 20) -> Iterable[T]:
    """Show a progress bar on standard error while ``count`` items are worked through, if there are ``many``."""
    if count < many or not sys.stderr.isatty():
        return items
    from rich.console import Console
    from rich.progress import track

    return track(items, doing, total=count, console=Console(stderr=True), transient=True)


def note(message: str) -> None:
    """Say something that is not the result."""
    print(message, file=sys.stderr)


def print_raw(text: str) -> None:
    """Print a text as it is, byte for byte in UTF-8, and nothing else."""
    print_bytes(text.encode("utf-8", "surrogatepass"))


def print_bytes(data: bytes) -> None:
    """Print bytes as they are, and nothing else."""
    try:
        rest = memoryview(data)
        while rest:  # unbuffered, as some environments have it, a write may take a part only
            rest = rest[sys.stdout.buffer.write(rest) :]
        sys.stdout.buffer.flush()
    except BrokenPipeError:
        raise PipeClosed from None


def write_result(data: bytes, out: Path | None) -> None:
    """Write what a command has made to a file, or to standard output."""
    if out is None:
        print_bytes(data)
    else:
        write_whole(out, data)
        note(f"Wrote {out}.")
