"""A process that holds pieces against editors for another, and may be lost with any of them."""

from __future__ import annotations

import os
import pickle
import subprocess
import sys
import threading
import time
from contextlib import suppress
from pathlib import Path

import verse_tray
from verse_tray.tasks.audit_worker import Done, Settings, Task, set_aside, too_long

_GRACE = 10.0  # seconds above the bound after which a process is ended that does not end the piece itself
_SERVE = "from verse_tray.tasks.audit_worker import serve; serve()"


class ClosedError(Exception):
    """The child was closed while it was at work."""


class _LostError(Exception):
    """The process has ended."""


class Child:
    """A worker in a process of its own; begun when it is needed, and anew when it was lost."""

    def __init__(self, settings: Settings) -> None:
        self.settings = settings
        """What it knows."""
        self._process: subprocess.Popen[bytes] | None = None
        self._closed = False
        self._timed_out = False

    def hold(self, tasks: list[Task]) -> list[Done]:
        """Hold pieces against editors; what the process is lost with twice is set aside.

        Raises:
            ClosedError: it was closed meanwhile.
        """
        pairs: list[Task] = [
            (number, hashed, markup, (name,)) for number, hashed, markup, names in tasks for name in names
        ]
        done: list[Done] = []
        lost_with = -1
        while len(done) < len(pairs):
            begun = time.perf_counter()
            try:
                self._ask(_together(pairs[len(done) :]))
                while len(done) < len(pairs):
                    begun = time.perf_counter()
                    done.append(self._answer())
            except _LostError:
                self._end()
                if self._closed:
                    raise ClosedError from None
                if lost_with == len(done) or self._timed_out:
                    number, hashed, _, (name,) = pairs[len(done)]
                    why = too_long(self.settings.longest) if self._timed_out else "the process that held it was ended"
                    took = time.perf_counter() - begun
                    done.append((number, hashed, set_aside(name, self.settings.keys[name], why, took)))
                lost_with = len(done)
        return done

    def stop(self) -> None:
        """End it, whatever it does; who waits for it is told. May be called from another thread."""
        self._closed = True
        self._kill()

    def close(self) -> None:
        """End it once it has nothing to do any more."""
        self._closed = True
        self._end()

    def _ask(self, tasks: list[Task]) -> None:
        if self._closed:
            raise _LostError
        try:
            if self._process is None:
                self._process = _begun()
                self._send(self.settings)
            self._send(tasks)
        except OSError:
            raise _LostError from None

    def _send(self, message: object) -> None:
        assert self._process is not None and self._process.stdin is not None
        pickle.dump(message, self._process.stdin, pickle.HIGHEST_PROTOCOL)
        self._process.stdin.flush()

    def _answer(self) -> Done:
        """Return the next result; a process that does not come up with it in time is ended."""
        process = self._process
        assert process is not None and process.stdout is not None
        self._timed_out = False
        timer = threading.Timer(self.settings.longest + _GRACE, self._time_is_up)
        timer.daemon = True
        timer.start()
        try:
            return pickle.load(process.stdout)  # type: ignore[no-any-return]
        except (EOFError, OSError, ValueError, pickle.UnpicklingError):
            raise _LostError from None
        finally:
            timer.cancel()

    def _time_is_up(self) -> None:
        self._timed_out = True
        self._kill()

    def _kill(self) -> None:
        process = self._process  # another thread may end it meanwhile
        if process is not None:
            process.kill()

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is None:
            return
        process.kill()
        for stream in (process.stdin, process.stdout):
            if stream is not None:
                with suppress(OSError):
                    stream.close()
        if process.wait() == 1 and not self._timed_out and not self._closed:  # Python has ended with an error
            raise RuntimeError("a worker of the audit could not begin, or met a fault; what it says is above")


def _begun() -> subprocess.Popen[bytes]:
    """Begin a process; it finds this very package, and nothing that lies in the folder it begins in."""
    package = str(Path(verse_tray.__file__).parents[1])
    paths = os.pathsep.join(filter(None, (package, os.environ.get("PYTHONPATH", ""))))
    return subprocess.Popen(
        [sys.executable, "-P", "-c", _SERVE],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONPATH": paths},
    )


def _together(pairs: list[Task]) -> list[Task]:
    """Return tasks of one piece and one editor as tasks of one piece, so that each piece is read once."""
    found: dict[int, Task] = {}
    for number, hashed, markup, names in pairs:
        known = found.get(number)
        found[number] = (number, hashed, markup, (*known[3], *names) if known else names)
    return list(found.values())
