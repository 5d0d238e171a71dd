"""The screen: standard output for results, standard error for everything else."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from verse_tray.cli.exits import PipeClosed

if TYPE_CHECKING:
    from collections.abc import Iterable

    from rich.console import Console, RenderableType


T = TypeVar("T")


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
    from verse_tray.tasks.outputs import write_whole

    if out is None:
        print_bytes(data)
    else:
        write_whole(out, data)
        note(f"Wrote {out}.")
