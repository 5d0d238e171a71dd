"""The screen: standard output for results, standard error for everything else."""

from __future__ import annotations

import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from functools import cached_property
from pathlib import Path
from shutil import get_terminal_size
from textwrap import fill
from typing import TYPE_CHECKING, TypeVar

from verse_tray.cli.exits import OutputClosed, PipeClosed
from verse_tray.reports.signs import visible
from verse_tray.reports.text_layout import Rows, Words

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable

    from rich.console import Console, ConsoleOptions, RenderableType
    from rich.segment import Segment


T = TypeVar("T")
_NARROWEST, _WIDEST = 40, 1000
"""Columns that tables are laid out for, whatever number the terminal or COLUMNS names."""


class Screen:
    """Standard output, as results are printed on it; the library for terminals is loaded where it is needed."""

    @cached_property
    def is_plain(self) -> bool:
        """Whether it shows no colours."""
        asked = any(name in os.environ for name in ("FORCE_COLOR", "TTY_COMPATIBLE"))
        return not asked and sys.stdout is not None and not sys.stdout.isatty()

    @cached_property
    def width(self) -> int:
        """Columns that are laid out for: of the terminal, of the one beside it, or as COLUMNS has it."""
        return _bounded(_columns()) if self.is_plain else self._console.width

    def print(self, *parts: RenderableType, style: str | None = None, soft_wrap: bool = False) -> None:
        """Print something in a style; with ``soft_wrap``, what is too long for a line stays on it."""
        with _writing():
            self._console.print(*parts, style=style, soft_wrap=soft_wrap)

    def show(self, part: RenderableType) -> None:
        """Print a part of a report; a bare text stands on its line however long it is, so that it can be copied."""
        if isinstance(part, (Words, Rows)):
            lines = part.plain(self.width) if self.is_plain else None
            if lines is None:
                self.print(part, soft_wrap=isinstance(part, Words) and not part.wrapped)
            else:
                with _writing():
                    sys.stdout.write(lines)
                    sys.stdout.flush()
            return
        from rich.text import Text

        self.print(part, soft_wrap=isinstance(part, Text))

    @cached_property
    def _console(self) -> Console:
        from rich.console import Console
        from rich.segment import Segment

        class Shown(Console):
            def on_broken_pipe(self) -> None:
                raise PipeClosed

            def render(self, renderable: RenderableType, options: ConsoleOptions | None = None) -> Iterable[Segment]:
                for text, style, control in super().render(renderable, options):
                    yield Segment(text if control else visible(text), style, control)

        shown = Shown(highlight=False, markup=False, emoji=False)
        shown.width = self.width if self.is_plain else _bounded(shown.width)
        return shown


def _bounded(width: int) -> int:
    return min(max(width or 80, _NARROWEST), _WIDEST)


def _columns() -> int:
    """Return the columns of a terminal beside standard output, or what the environment says; 0 if nothing does."""
    said = os.environ.get("COLUMNS", "")
    if said.isdecimal():
        return int(said)
    for stream in range(3):
        with suppress(OSError):
            return os.get_terminal_size(stream).columns
    return 0


def console() -> Screen:
    """Return the screen for results."""
    return Screen()


def show(screen: Screen, parts: Iterable[RenderableType]) -> None:
    """Print the parts of a report."""
    for part in parts:
        screen.show(part)


def with_progress(items: Iterable[T], count: int, doing: str = "Checking", many: int = 20) -> Iterable[T]:
    """Show a progress bar on standard error while ``count`` items are worked through, if there are ``many``."""
    if count < many or not sys.stderr.isatty():
        return items
    from rich.console import Console
    from rich.progress import track

    return track(items, doing, total=count, console=Console(stderr=True), transient=True)


@contextmanager
def progress_told(doing: str) -> Iterator[Callable[[int, int], None]]:
    """Give what is to be told how much is done, and of how much; a bar on standard error, where that is a terminal."""
    if not sys.stderr.isatty():
        yield lambda done, of: None
        return
    from rich.console import Console
    from rich.progress import Progress

    with Progress(console=Console(stderr=True), transient=True) as progress:
        task = progress.add_task(doing, total=None)
        yield lambda done, of: progress.update(task, completed=done, total=of)


def note(message: str) -> None:
    """Say something that is not the result; where nobody can be told, nobody is."""
    with suppress(OSError):
        print(visible(message), file=sys.stderr)


def explain(lines: Iterable[str]) -> None:
    """Say several things that are not the result: in a terminal, what is too long for a line hangs below its first."""
    width = get_terminal_size().columns if sys.stderr.isatty() else 0
    for line in lines:
        note(hanging(line, width) if width else line)


def hanging(line: str, width: int) -> str:
    """Return a line folded at spaces, its further lines set in below the first."""
    indent = " " * (len(line) - len(line.lstrip()) + 4)
    return fill(line, max(width, 30), subsequent_indent=indent, break_long_words=False, break_on_hyphens=False)


@contextmanager
def _writing() -> Iterator[None]:
    """Tell apart, in the block, who has seen enough from what cannot be written."""
    try:
        yield
    except BrokenPipeError:
        raise PipeClosed from None
    except OSError as error:
        raise OutputClosed(error.strerror or str(error)) from None


def flush() -> None:
    """Write what is still buffered for standard output."""
    with _writing():
        sys.stdout.flush()


def print_raw(text: str) -> None:
    """Print a text as it is, byte for byte in UTF-8, and nothing else."""
    print_bytes(text.encode("utf-8", "surrogatepass"))


def print_bytes(data: bytes) -> None:
    """Print bytes as they are, and nothing else."""
    with _writing():
        rest = memoryview(data)
        while rest:  # unbuffered, as some environments have it, a write may take a part only
            rest = rest[sys.stdout.buffer.write(rest) :]
        sys.stdout.buffer.flush()


def write_result(data: bytes, out: Path | None) -> None:
    """Write what a command has made to a file, or to standard output."""
    from verse_tray.tasks.outputs import write_whole

    if out is None:
        print_bytes(data)
    else:
        write_whole(out, data)
        note(f"Wrote {out}.")
