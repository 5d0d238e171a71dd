"""The workers of a cluster as the crew of an audit, by Dask's ``distributed`` (extra ``cluster``)."""

from __future__ import annotations

import logging
import queue
import socket
import threading
import time
from concurrent.futures import CancelledError, Future
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any
from urllib.parse import urlsplit

import msgspec

from verse_tray import __version__
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import listed
from verse_tray.tasks.audit_child import Child
from verse_tray.tasks.audit_worker import Done, Settings, Task

if TYPE_CHECKING:
    from distributed import Client

_REACHED = 10.0  # seconds until a scheduler has to answer
_PATIENCE = 60.0  # seconds that a cluster may be without any worker
_AGAIN = 3  # times that a batch is begun once more where its worker was lost


class ClusterCrew:
    """The workers of a cluster."""

    def __init__(self, settings: Settings, cluster: str) -> None:
        """Reach it.

        Args:
            settings: What workers have to know.
            cluster: Address of its scheduler, such as ``tcp://10.0.0.5:8786``, or its scheduler file.

        Raises:
            InputError: it cannot be reached, it has no workers, or these have another version of the program.
        """
        self._settings = settings
        self._name = cluster
        self._client = _client(cluster)
        self._executor = self._client.get_executor(retries=_AGAIN, pure=False)
        self._alone_since = time.monotonic()
        try:
            self._wait_for_workers()
            self._see_versions()
        except BaseException:
            self.close()
            raise

    def _wait_for_workers(self) -> None:
        try:
            self._client.wait_for_workers(1, timeout=_REACHED)
        except TimeoutError:
            raise InputError(
                f"{self._name}: this cluster has no workers. Start some: dask worker {self._name}"
            ) from None

    def _see_versions(self) -> None:
        try:
            found = self._client.run(version)
        except ImportError:
            raise InputError(f"{self._name}: its workers have no verse-tray. {self._install()}") from None
        other = sorted(set(found.values()) - {__version__})
        if other:
            raise InputError(
                f"{self._name}: its workers have version {listed(other)} of verse-tray, this is {__version__}. "
                f"{self._install()}"
            )

    def _install(self) -> str:
        return f"Install verse-tray[cluster] {__version__} where they run."

    @property
    def size(self) -> int:
        """How many batches it can work on at once; 0 while it has nobody.

        Raises:
            InputError: it has had nobody for a minute.
        """
        with suppress(OSError, ValueError):
            count = sum(self._client.nthreads().values())
            if count:
                self._alone_since = time.monotonic()
                return int(count)
        if time.monotonic() - self._alone_since > _PATIENCE:
            raise InputError(f"{self._name}: all workers of this cluster are gone. {_KEPT}")
        return 0

    def submit(self, tasks: list[Task]) -> Future[list[Done]]:
        """Have a batch worked on."""
        return self._executor.submit(hold, self._settings, tasks)  # type: ignore[no-any-return]

    def lost(self, error: BaseException) -> bool:
        """Tell whether the workers that held a batch were lost again and again.

        Raises:
            InputError: the cluster is gone, or a worker cannot do this work.
        """
        from distributed import KilledWorker

        if isinstance(error, KilledWorker):
            return True
        if isinstance(error, CancelledError):
            raise InputError(f"{self._name}: the cluster is gone. {_KEPT}") from None
        if isinstance(error, ImportError):
            raise InputError(f"{self._name}: a worker has no verse-tray. {self._install()}") from None
        return False

    def close(self) -> None:
        """Let the workers end their children, and part from them."""
        with suppress(Exception):  # they end by themselves when they find nothing to do
            self._client.run(release, self._settings.key)
        self._executor.shutdown(wait=False)
        with suppress(Exception):  # it may be gone already
            self._client.close(timeout=2)


class _SchedulerFile(msgspec.Struct):
    """What a scheduler writes about itself, as far as it is needed."""

    address: str


_KEPT = "What was kept until now stays: the same command goes on where this one was."


def _client(cluster: str) -> Client:
    given: dict[str, Any] = {"scheduler_file": cluster} if Path(cluster).is_file() else {"address": cluster}
    if "address" in given and "://" not in cluster and ":" not in cluster:
        raise InputError(
            f"--cluster {cluster}: there is no such file, and it is no address. Give the scheduler's address, such as "
            "tcp://10.0.0.5:8786, or its scheduler file."
        )
    try:
        import dask
        from distributed import Client
    except ImportError:
        raise InputError("--cluster needs the extra cluster: pip install 'verse-tray[cluster]'") from None
    for name in ("distributed", *(name for name in logging.root.manager.loggerDict if name.startswith("distributed."))):
        logging.getLogger(name).setLevel(logging.CRITICAL)  # what matters of it is told by us
    if "scheduler_file" in given and _has_ended(Path(cluster)):
        raise InputError(
            f"--cluster {cluster}: this cluster cannot be reached: the scheduler that wrote this file has ended. Start "
            f"it again: dask scheduler --scheduler-file {cluster}"
        )
    try:
        with dask.config.set({"distributed.comm.retry.count": 0, "distributed.comm.timeouts.connect": f"{_REACHED}s"}):
            return Client(**given, timeout=_REACHED, set_as_default=False)
    except (OSError, TimeoutError, ValueError, KeyError, TypeError) as error:
        reason = " ".join(str(error).split())[:200]
        raise InputError(f"--cluster {cluster}: this cluster cannot be reached: {reason}") from None


def _has_ended(file: Path) -> bool:
    """Tell whether nobody listens where the scheduler that wrote a file did: it did so once it could be reached."""
    try:
        found = urlsplit(msgspec.json.decode(file.read_bytes(), type=_SchedulerFile).address)
        socket.create_connection((found.hostname or "", found.port or 0), timeout=_REACHED).close()
    except ConnectionRefusedError:
        return True
    except (OSError, ValueError, msgspec.MsgspecError):  # it tells why by itself
        pass
    return False


_children: dict[str, queue.SimpleQueue[Child]] = {}
_lock = threading.Lock()


def version() -> str:
    """Return the version of the program, on a worker."""
    return __version__


def hold(settings: Settings, tasks: list[Task]) -> list[Done]:
    """Hold pieces against editors, on a worker: by a child of it, which is kept for the next.

    Raises:
        InputError: the worker has another version of the program.
    """
    if settings.version != __version__:
        raise InputError(
            f"A worker has version {__version__} of verse-tray, and {settings.version} asks. Install the same."
        )
    with _lock:
        idle = _children.setdefault(settings.key, queue.SimpleQueue())
    try:
        child = idle.get_nowait()
    except queue.Empty:
        child = Child(settings)
    try:
        return child.hold(tasks)
    finally:
        idle.put(child)


def release(key: str) -> None:
    """End the children that were kept for some settings, on a worker."""
    with _lock:
        idle = _children.pop(key, None)
    while idle is not None:
        try:
            idle.get_nowait().close()
        except queue.Empty:
            return
