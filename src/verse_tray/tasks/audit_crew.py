"""Who does the work of an audit: children of this process, as many as asked for."""

from __future__ import annotations

import queue
from concurrent.futures import Future, ThreadPoolExecutor
from typing import Protocol

from verse_tray.tasks.audit_child import Child
from verse_tray.tasks.audit_worker import Done, Settings, Task


class Crew(Protocol):
    """Takes batches of tasks and gives futures of their results."""

    @property
    def size(self) -> int:
        """How many batches it can work on at once; 0 while it has nobody."""

    def submit(self, tasks: list[Task]) -> Future[list[Done]]:
        """Have a batch worked on."""

    def lost(self, error: BaseException) -> bool:
        """Tell whether an error of a future means that who worked on it was lost again and again.

        Raises:
            InputError: it means that the crew cannot be used.
        """

    def close(self) -> None:
        """Let everybody go, whatever is under way."""


class LocalCrew:
    """Children of this process, one for each of its threads."""

    def __init__(self, settings: Settings, workers: int) -> None:
        self.size = workers
        """How many there are."""
        self._children = [Child(settings) for _ in range(workers)]
        self._idle: queue.SimpleQueue[Child] = queue.SimpleQueue()
        for child in self._children:
            self._idle.put(child)
        self._threads = ThreadPoolExecutor(workers)

    def submit(self, tasks: list[Task]) -> Future[list[Done]]:
        """Have a batch worked on."""
        return self._threads.submit(self._hold, tasks)

    def _hold(self, tasks: list[Task]) -> list[Done]:
        child = self._idle.get()
        try:
            return child.hold(tasks)
        finally:
            self._idle.put(child)

    def lost(self, error: BaseException) -> bool:
        """Tell that nobody is: children are begun anew."""
        return False

    def close(self) -> None:
        """End the children."""
        for child in self._children:
            child.stop()
        self._threads.shutdown(wait=True, cancel_futures=True)
        for child in self._children:
            child.close()
