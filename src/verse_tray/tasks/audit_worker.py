"""A worker of an audit: pieces in, results out, within bounds of time and memory."""

from __future__ import annotations

import multiprocessing
import multiprocessing.connection
import os
import signal
import threading
import time
from types import FrameType

from verse_tray.audit.judged import SET_ASIDE, Judged, judged, key_of
from verse_tray.editors.load import Editor, load_editor
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece

Task = tuple[int, str, str, tuple[str, ...]]
"""Number of a piece, hash, markup, and the editors (as they were asked for) that it is held against."""
Done = tuple[int, str, Judged]
"""Number of a piece, hash, and what came of it in an editor."""


class _TooLongError(BaseException):
    """The time is up; no handler of ours catches it on the way."""


class Worker:
    """What a worker knows."""

    def __init__(self, editors: tuple[str, ...], longest: float, memory: int) -> None:
        """Load the editors.

        Args:
            editors: As they were asked for.
            longest: Seconds that a piece may take in an editor.
            memory: Bytes that it may take; 0 for no bound.
        """
        self._editors: dict[str, tuple[Editor, str]] = {}
        for asked in editors:
            editor = load_editor(asked)
            self._editors[asked] = editor, key_of(editor)
        self._longest = longest
        self._bounded = hasattr(signal, "setitimer")
        if self._bounded:
            signal.signal(signal.SIGALRM, _time_is_up)
        if memory:
            _bound_memory(memory)

    def work(self, tasks: list[Task]) -> list[Done]:
        """Hold pieces against editors."""
        done: list[Done] = []
        for number, hashed, markup, editors in tasks:
            piece = Piece(Source(markup))
            done += [(number, hashed, self._judged(piece, asked)) for asked in editors]
        return done

    def _judged(self, piece: Piece, asked: str) -> Judged:
        editor, key = self._editors[asked]
        begun = time.perf_counter()
        why = ""
        try:
            if self._bounded:
                signal.setitimer(signal.ITIMER_REAL, self._longest)
            return judged(piece, editor, key)
        except _TooLongError:
            why = f"it takes longer than {self._longest:g} s"
        except MemoryError:
            why = "it takes too much memory"
        except RecursionError:
            why = "it is nested too deeply"
        finally:
            if self._bounded:
                signal.setitimer(signal.ITIMER_REAL, 0)
        return set_aside(editor.name, key, why, time.perf_counter() - begun)


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


_worker: list[Worker] = []


def begin(editors: tuple[str, ...], longest: float, memory: int) -> None:
    """Make this process a worker; see :class:`Worker`."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the run that has begun us tells us when to end
    threading.Thread(target=_end_with_parent, daemon=True).start()
    _worker[:] = [Worker(editors, longest, memory)]


def _end_with_parent() -> None:
    """End this process when the run that has begun it is gone, however that ended."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        multiprocessing.connection.wait([parent.sentinel])
        os._exit(1)


def work(tasks: list[Task]) -> list[Done]:
    """Hold pieces against editors, in a process that was begun as a worker."""
    return _worker[0].work(tasks)
