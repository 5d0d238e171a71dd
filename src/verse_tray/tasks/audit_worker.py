"""A worker of an audit: pieces in, results out, within bounds of time and memory."""

from __future__ import annotations

import hashlib
import os
import pickle
import queue
import signal
import sys
import threading
import time
from collections.abc import Callable, Iterator
from functools import cached_property
from types import FrameType

from msgspec import Struct

from verse_tray import __version__
from verse_tray.audit.judged import SET_ASIDE, Fit, Judged, judged, key_of
from verse_tray.editors.load import Editor
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

Task = tuple[int, str, str, tuple[str, ...]]
"""Number of a piece, hash, markup, and the names of the editors that it is held against."""
Done = tuple[int, str, Judged]
"""Number of a piece, hash, and what came of it in an editor."""


_IDLE = 600.0  # seconds without work after which a worker ends; whoever needs it again begins another


class Settings(Struct, frozen=True, dict=True):
    """What workers have to know; can be pickled."""

    editors: tuple[Editor, ...]
    """The editors."""
    longest: float = 20.0
    """Seconds that a piece may take in an editor."""
    memory: int = 500
    """Megabytes that it may take; 0 for no bound."""
    version: str = __version__
    """Version of the program that asks."""
    fits: bool = False
    """Whether pieces are rewritten for the editors, and not just held against them."""

    @cached_property
    def keys(self) -> dict[str, str]:
        """What answers depend on, by the editor's name."""
        return {editor.name: key_of(editor) for editor in self.editors}

    @property
    def key(self) -> str:
        """What tells these settings from others."""
        said = repr((sorted(self.keys.items()), self.longest, self.memory, self.version, self.fits))
        return hashlib.sha256(said.encode()).hexdigest()[:16]


class _TooLongError(BaseException):
    """The time is up; no handler of ours catches it on the way."""


class Worker:
    """What a worker knows."""

    def __init__(self, settings: Settings) -> None:
        self._editors = {editor.name: (editor, settings.keys[editor.name]) for editor in settings.editors}
        self._longest = settings.longest
        self._do = _fitted if settings.fits else judged
        self._bounded = hasattr(signal, "setitimer")
        if self._bounded:
            signal.signal(signal.SIGALRM, _time_is_up)
        if settings.memory:
            _bound_memory(settings.memory * 1_000_000)

    def work(self, tasks: list[Task]) -> Iterator[Done]:
        """Hold pieces against editors; yields each result as it comes, in the order of the tasks and their editors."""
        for number, hashed, markup, editors in tasks:
            piece = Piece(Source(markup))
            for name in editors:
                yield number, hashed, self._judged(piece, name)

    def _judged(self, piece: Piece, name: str) -> Judged:
        editor, key = self._editors[name]
        begun = time.perf_counter()
        why = ""
        try:
            if self._bounded:
                signal.setitimer(signal.ITIMER_REAL, self._longest)
            return self._do(piece, editor, key)
        except _TooLongError:
            why = too_long(self._longest)
        except MemoryError:
            why = "it takes too much memory"
        except RecursionError:
            why = "it is nested too deeply"
        except Exception as error:  # told with the piece: thousands of others are none the worse for it
            why = f"a fault of ours: {type(error).__name__}: {error}"
        finally:
            if self._bounded:
                signal.setitimer(signal.ITIMER_REAL, 0)
        return set_aside(name, key, why, time.perf_counter() - begun)


def _fitted(piece: Piece, editor: Editor, key: str) -> Judged:
    """Rewrite a piece for an editor."""
    from verse_tray.fitting.fit import fit
    from verse_tray.fitting.judge import of_hundred
    from verse_tray.reports.fit_text import fit_lines

    begun = time.perf_counter()
    done = fit(piece, editor)
    before, after = of_hundred(done.before.share), of_hundred(done.share)
    made = Fit(done.texts, tuple(fit_lines(done)), before, after, done.changed)
    return Judged(editor.name, key, done.verdict.value, after, seconds=time.perf_counter() - begun, fit=made)


def too_long(longest: float) -> str:
    """Return why a piece is set aside that takes so many seconds."""
    return f"it takes longer than {longest:g} s"


def set_aside(editor: str, key: str, why: str, seconds: float = 0.0) -> Judged:
    """Return the result of a piece that could not be held against an editor."""
    return Judged(editor, key, SET_ASIDE, seconds=seconds, why=why)


def _time_is_up(number: int, frame: FrameType | None) -> None:
    raise _TooLongError


def _bound_memory(more: int) -> None:
    """Let this process take so many bytes more than it has now, where the system can tell."""
    try:
        import resource
        from pathlib import Path

        pages = int(Path("/proc/self/statm").read_text("ascii").split()[0])
        resource.setrlimit(resource.RLIMIT_AS, (pages * resource.getpagesize() + more,) * 2)
    except (ImportError, OSError, ValueError):
        return


def serve() -> None:
    """Be a worker: settings and lists of tasks come as pickles on standard input, results go to standard output.

    The process ends with its input, even in the middle of a piece: whoever began it is gone then.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # who has begun us tells us when to end
    answers = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)  # nothing else gets among the answers
    asked: queue.SimpleQueue[list[Task]] = queue.SimpleQueue()
    settings: Settings = pickle.load(sys.stdin.buffer)
    threading.Thread(target=_listen, args=(asked.put,), daemon=True).start()
    worker = Worker(settings)
    try:
        while True:
            for done in worker.work(asked.get(timeout=_IDLE)):
                pickle.dump(done, answers, pickle.HIGHEST_PROTOCOL)
                answers.flush()
    except (MemoryError, BrokenPipeError, queue.Empty):
        os._exit(2)


def _listen(heard: Callable[[list[Task]], None]) -> None:
    while True:
        try:
            heard(pickle.load(sys.stdin.buffer))
        except (EOFError, OSError, MemoryError, pickle.UnpicklingError):
            os._exit(2)
