"""A cluster of this machine: its processes are forked from one that has loaded what all of them are."""

from __future__ import annotations

import multiprocessing
import os
import signal
import time
from contextlib import suppress
from pathlib import Path

_WORKERS = 2


class Cluster:
    """A scheduler, and its workers."""

    def __init__(self, folder: Path) -> None:
        self._file = folder / "scheduler.json"
        self._numbers = folder / "processes.txt"
        forks = multiprocessing.get_context("forkserver")
        self._begun = forks.Process(target=be_cluster, args=(str(self._file), str(self._numbers)))
        self._begun.start()

    @property
    def file(self) -> str:
        """The scheduler's file, once it is there."""
        self._wait_for(self._file)
        return str(self._file)

    def lose_worker(self) -> None:
        """End a worker."""
        os.kill(self._processes()[1], signal.SIGKILL)

    def stop(self) -> None:
        """End all of it, if it has not ended: its numbers may be those of others then."""
        for each in self._processes() if self._begun.is_alive() else ():
            with suppress(ProcessLookupError):
                os.kill(each, signal.SIGKILL)
        self._begun.join()

    def _processes(self) -> list[int]:
        """Return the numbers of its processes, the scheduler's first."""
        self._wait_for(self._numbers)
        return [int(number) for number in self._numbers.read_text().split()]

    def _wait_for(self, file: Path) -> None:
        while not file.exists():
            assert self._begun.is_alive()
            time.sleep(0.05)


def be_cluster(file: str, numbers: str) -> None:
    """Be the processes of a cluster, as its own commands would begin them, until they are ended."""
    from distributed.cli import dask_scheduler, dask_worker

    nowhere = os.open(os.devnull, os.O_RDWR)
    for stream in range(3):
        os.dup2(nowhere, stream)
    begun = []
    for main, arguments in (
        (dask_scheduler.main, ["--host", "127.0.0.1", "--port", "0"]),
        *[(dask_worker.main, ["--nthreads", "1", "--no-nanny"])] * _WORKERS,
    ):
        process = os.fork()
        if not process:
            main([*arguments, "--no-dashboard", "--scheduler-file", file])
            os._exit(0)
        begun.append(process)
    Path(f"{numbers}.new").write_text(" ".join(map(str, begun)))
    Path(f"{numbers}.new").rename(numbers)
    for process in begun:
        os.waitpid(process, 0)
