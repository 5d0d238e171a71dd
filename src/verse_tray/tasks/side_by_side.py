"""Several pieces of work at once, in processes that share what was read before they began.

A process is forked, so it begins with all that is loaded and parsed, at once; only results are sent back. Nothing
depends on it: what comes back from none of them is done here, with the errors that it ends in.
"""

from __future__ import annotations

import os
import signal
import struct
import sys
import threading
from collections.abc import Callable, Sequence
from contextlib import suppress
from importlib import import_module
from types import FrameType, TracebackType
from typing import Generic, NoReturn, Self, TypeVar

from msgspec import Struct

T = TypeVar("T")

_FORKS = sys.platform.startswith("linux")  # elsewhere the system's own libraries may not outlive it
_TURN = struct.Struct(">I")
_HEAD = struct.Struct(">IQ")
_MOST_TURNS = 10_000  # they fit into a pipe that nobody reads yet
_LOOKED = 0.5  # seconds between two looks whether anybody still waits


def cores() -> int:
    """Return how many processes can work on this machine at once."""
    return len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1


class _Child(Struct, frozen=True):
    process: int
    results: int
    """The end of its pipe that is read."""
    read: bytearray
    """What has come of a result that is not there as a whole."""


class SideBySide(Generic[T]):
    """Works that are done at the same time, and that are ended when the block ends, or when nobody waits for them."""

    def __init__(self, works: Sequence[Callable[[], T]], processes: int) -> None:
        """Begin.

        Args:
            works: What is to be done: the longest first. Results are pickled.
            processes: How many processes do it; with fewer than two, beside other threads, and where processes are
                not forked safely, nothing is done before somebody asks for it.
        """
        self._works: list[Callable[[], T] | None] = list(works)
        self._done: dict[int, T] = {}
        self._children: list[_Child] = []
        count = min(processes, len(works))
        if count < 2 or not _FORKS or threading.active_count() > 1:  # locks of other threads would stay locked
            return
        import_module("pickle")  # once, before there are several who would; and not where one process does it all
        turns, given = os.pipe()
        self._step = -(-len(works) // _MOST_TURNS)
        os.write(given, b"".join(map(_TURN.pack, range(0, len(works), self._step))))
        os.close(given)
        try:
            for _ in range(count):
                self._begin(turns)
        except OSError:  # no more processes here: what is left is done by those that there are, or by this one
            pass
        finally:
            os.close(turns)

    def __enter__(self) -> Self:
        """Wait for nothing yet."""
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """End what is still at work."""
        self._close()

    def __del__(self) -> None:
        self._close()

    def _close(self) -> None:
        while self._children:
            self._end(self._children[-1])

    def result(self, number: int) -> T:
        """Return the result of a work, once, when it is there; with the errors of the work itself."""
        while number not in self._done and self._children:
            self._read()
        work, self._works[number] = self._works[number], None
        assert work is not None, "it was asked for before"
        return self._done.pop(number) if number in self._done else work()

    def _begin(self, turns: int) -> None:
        results, sent = os.pipe()
        try:
            process = os.fork()
        except OSError:
            os.close(results)
            os.close(sent)
            raise
        if not process:
            self._work(turns, sent)
        os.close(sent)
        self._children.append(_Child(process, results, bytearray()))

    def _read(self) -> None:
        """Take what has come."""
        import selectors

        with selectors.DefaultSelector() as selector:
            for child in self._children:
                selector.register(child.results, selectors.EVENT_READ, child)
            for key, _ in selector.select():
                child = key.data
                got = os.read(child.results, 1 << 20)
                child.read.extend(got)
                self._take(child)
                if not got:
                    self._end(child)

    def _take(self, child: _Child) -> None:
        import pickle

        while len(child.read) >= _HEAD.size:
            number, size = _HEAD.unpack_from(child.read)
            end = _HEAD.size + size
            if len(child.read) < end:
                return
            self._done[number] = pickle.loads(bytes(child.read[_HEAD.size : end]))
            del child.read[:end]

    def _end(self, child: _Child) -> None:
        self._children.remove(child)
        os.close(child.results)
        with suppress(OSError):  # it has ended
            os.kill(child.process, signal.SIGKILL)
        with suppress(ChildProcessError):  # whoever takes this process along has seen to it
            os.waitpid(child.process, 0)

    def _work(self, turns: int, sent: int) -> NoReturn:
        """Do one work after the other, in a process that ends here, whatever happens."""
        import pickle

        try:
            _end_with(os.getppid())
            while turn := os.read(turns, _TURN.size):
                (first,) = _TURN.unpack(turn)
                for number in range(first, min(first + self._step, len(self._works))):
                    self._works[:number] = [None] * number  # nobody comes back to those: what they hold can go
                    with suppress(Exception):  # it is done again where its error can be told
                        data = pickle.dumps(_asked(self._works[number]), pickle.HIGHEST_PROTOCOL)
                        rest = memoryview(_HEAD.pack(number, len(data)) + data)
                        while rest:
                            rest = rest[os.write(sent, rest) :]
        finally:
            os._exit(0)


def _asked(work: Callable[[], T] | None) -> T:
    assert work is not None
    return work()


def _end_with(parent: int) -> None:
    """See to it that this process ends when it is told to, and soon after its parent."""
    for each in (signal.SIGINT, signal.SIGTERM):
        signal.signal(each, signal.SIG_DFL)

    def look(number: int, frame: FrameType | None) -> None:
        if os.getppid() != parent:  # it was killed: nobody waits any more
            os._exit(1)

    signal.signal(signal.SIGALRM, look)
    signal.setitimer(signal.ITIMER_REAL, _LOOKED, _LOOKED)
