"""Loading modules while something else is waited for."""

from __future__ import annotations

import os
import signal
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Event, Thread, current_thread, main_thread
from types import FrameType


@contextmanager
def loading(load: Callable[[], object]) -> Iterator[None]:
    """Load modules in a thread while the block runs; both are done when it ends.

    An interrupt between two steps of the main thread's own imports can leave the lock of all imports closed for good,
    and the thread would wait for it: until it is done, interrupts are held back.

    Args:
        load: Loads them; what it raises is told by whoever loads them again.
    """
    if current_thread() is not main_thread():
        load()
        yield
        return
    done, held = Event(), list[int]()
    usual = {each: signal.getsignal(each) for each in (signal.SIGINT, signal.SIGTERM)}
    handlers = {number: handler for number, handler in usual.items() if callable(handler)}

    def hold(number: int, frame: FrameType | None) -> None:
        held.append(number)
        if done.is_set() and held:  # else the thread passes it on, once
            handlers[signal.Signals(held.pop())](number, frame)

    def run() -> None:
        try:
            load()
        finally:
            done.set()
            while held:
                os.kill(os.getpid(), held.pop())

    thread = Thread(target=run, daemon=True)
    try:
        for number in handlers:
            signal.signal(number, hold)
        thread.start()
        yield
    finally:
        thread.join()
        for number, handler in handlers.items():
            signal.signal(number, handler)
