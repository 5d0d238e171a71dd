"""An audit: the pieces of an archive held against editors by several processes, kept in a store as they come."""

from __future__ import annotations

import multiprocessing
from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from itertools import islice
from pathlib import Path

from msgspec import Struct

from verse_tray.audit.judged import key_of
from verse_tray.audit.post import Post
from verse_tray.audit.sources.told import posts
from verse_tray.audit.store import Store
from verse_tray.editors.chosen import chosen_editors
from verse_tray.model.errors import InputError
from verse_tray.tasks.audit_worker import Done, Task, begin, set_aside, work

_SEEN = 64  # pieces whose answers are looked up together
_BATCH = 60_000  # characters that a worker gets at once, and at least one piece
_AHEAD = 3  # batches for each worker that wait


class AuditRequest(Struct, frozen=True):
    """What is audited."""

    sources: tuple[str, ...]
    """Folders, files, patterns of files."""
    editors: tuple[str, ...]
    """Editors by name or path; none at all, or ``all``, for every known one."""
    into: str
    """The store."""
    workers: int = 1
    """How many processes."""
    column: str | None = None
    """Column of markup in tables; None to tell by its name."""
    table: str | None = None
    """Table of a database; None for the one that has such a column."""
    longest: float = 20.0
    """Seconds that a piece may take in an editor."""
    memory: int = 500
    """Megabytes that it may take."""


class Tally(Struct):
    """How far an audit is."""

    pieces: int = 0
    """Pieces that were come by."""
    held: int = 0
    """Pairs of a piece and an editor that were held against one another in this run."""
    known: int = 0
    """Pairs that were known already."""
    gone: int = 0
    """Pieces that are not in their source any more."""


def audit(request: AuditRequest, going: Callable[[Tally], None] = lambda tally: None) -> Tally:
    """Audit an archive; what is not known yet is held, and kept in the store at once.

    Args:
        request: What is audited.
        going: Is given the tally now and then.

    Raises:
        InputError: a source or the store cannot be used; what was kept until then stays.
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    store = Store(Path(request.into))
    try:
        return _Audit(request, store, going).run()
    finally:
        store.close()


class _Audit:
    def __init__(self, request: AuditRequest, store: Store, going: Callable[[Tally], None]) -> None:
        self._request = request
        self._store = store
        self._going = going
        self._run = store.next_run()
        self._tally = Tally()
        self._editors = {
            each.asked: each for each in chosen_editors(() if "all" in request.editors else request.editors)
        }
        self._keys = {asked: (each.name, key_of(each)) for asked, each in self._editors.items()}
        if len({name for name, _ in self._keys.values()}) < len(self._keys):
            raise InputError("Two of the editors have the same name. Audit them into stores of their own.")
        self._pool: ProcessPoolExecutor | None = None
        self._under_way: dict[Future[list[Done]], list[Task]] = {}

    def run(self) -> Tally:
        """Do all of it."""
        try:
            for batch in self._batches():
                self._begin(batch)
                if len(self._under_way) >= self._request.workers * _AHEAD:
                    self._take()
            while self._under_way:
                self._take()
        finally:
            if self._pool is not None:
                self._pool.shutdown(wait=False, cancel_futures=True)
        self._tally.gone = self._store.forget(self._request.sources, self._run)
        self._going(self._tally)
        return self._tally

    def _posts(self) -> Iterator[Post]:
        for source in self._request.sources:
            yield from posts(source, self._request.column, self._request.table)

    def _batches(self) -> Iterator[list[Task]]:
        """Yield what is not known yet, in batches."""
        batch: list[Task] = []
        size = 0
        stream = self._posts()
        while some := list(islice(stream, _SEEN)):
            for post, (number, known) in zip(some, self._store.see(some, self._run), strict=True):
                self._tally.pieces += 1
                hashed = post.hash
                new = tuple(
                    asked for asked, (name, key) in self._keys.items() if known.get(name, ("", "")) != (hashed, key)
                )
                self._tally.known += len(self._keys) - len(new)
                if new:
                    batch.append((number, hashed, post.markup, new))
                    size += len(post.markup) * len(new)
                if size >= _BATCH:
                    yield batch
                    batch, size = [], 0
            self._going(self._tally)
        if batch:
            yield batch

    def _begin(self, batch: list[Task]) -> None:
        if self._pool is None:
            names = ("forkserver", "spawn")
            method = next(name for name in names if name in multiprocessing.get_all_start_methods())
            bounds = (tuple(self._editors), self._request.longest, self._request.memory * 1_000_000)
            context = multiprocessing.get_context(method)
            self._pool = ProcessPoolExecutor(self._request.workers, context, begin, bounds)
        self._under_way[self._pool.submit(work, batch)] = batch

    def _take(self) -> None:
        """Wait for a batch, and keep what came of it."""
        done, _ = wait(self._under_way, return_when=FIRST_COMPLETED)
        for future in done:
            batch = self._under_way.pop(future, None)
            if batch is None:
                continue
            try:
                self._keep(future.result())
            except BrokenProcessPool:
                self._one_by_one([batch, *self._under_way.values()])
                return

    def _keep(self, results: list[Done]) -> None:
        self._store.keep([(number, hashed, each) for number, hashed, each in results])
        self._tally.held += len(results)
        self._going(self._tally)

    def _one_by_one(self, batches: list[list[Task]]) -> None:
        """Hold pieces one after the other, once a worker was lost: the one with which it is lost again is set aside."""
        self._under_way.clear()
        self._pool = None
        every = (task for batch in batches for task in batch)
        waiting = deque(
            (number, hashed, markup, (asked,)) for number, hashed, markup, names in every for asked in names
        )
        while waiting:
            task = waiting.popleft()
            self._begin([task])
            (future,) = self._under_way
            try:
                self._keep(future.result())
            except BrokenProcessPool:
                self._pool = None
                name, key = self._keys[task[3][0]]
                self._keep([(task[0], task[1], set_aside(name, key, "the process that held it was ended"))])
            self._under_way.clear()
