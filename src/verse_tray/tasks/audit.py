"""An audit: the pieces of an archive held against editors by a crew, kept in a store as they come."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import FIRST_COMPLETED, CancelledError, Future, wait
from itertools import islice
from pathlib import Path

from msgspec import Struct

from verse_tray.audit.post import Post
from verse_tray.audit.store import EditorRow, SourceRow, Store
from verse_tray.editors.chosen import chosen_editors
from verse_tray.model.errors import InputError
from verse_tray.tasks import audit_sources
from verse_tray.tasks.audit_crew import Crew, LocalCrew
from verse_tray.tasks.audit_worker import Done, Settings, Task, set_aside

_SEEN = 64  # pieces whose answers are looked up together
_BATCH = 60_000  # characters that a worker gets at once, and at least one piece
_AHEAD = 3  # batches for each worker that wait
_LOOK = 5.0  # seconds after which a crew is looked at where nothing comes


class AuditRequest(Struct, frozen=True):
    """What is audited."""

    sources: tuple[str, ...]
    """Folders, files, patterns of files."""
    editors: tuple[str, ...]
    """Editors by name or path; none at all, or ``all``, for every known one."""
    into: str
    """The store."""
    workers: int = 1
    """How many processes, on this machine."""
    column: str | None = None
    """Column of markup in tables; None to tell by its name."""
    table: str | None = None
    """Table of a database; None for the one that has such a column."""
    longest: float = 20.0
    """Seconds that a piece may take in an editor."""
    memory: int = 500
    """Megabytes that it may take."""
    site: str | None = None
    """A site whose posts are audited too, as :func:`verse_tray.tasks.sending_target.target_of` knows it."""
    cluster: str | None = None
    """Scheduler of a cluster, or its file, whose workers do the work; None for processes of this machine."""
    called: str = ""
    """What the editor is called in the store, where there is just one; empty for its own name."""


def sources_of(request: AuditRequest) -> list[SourceRow]:
    """Return the sources of what is audited."""
    found = [audit_sources.of_path(each, request.column, request.table) for each in request.sources]
    return found if request.site is None else [*found, audit_sources.of_site(request.site)]


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
    read: float = 0.0
    """How much of the sources was read, 0 to 1."""
    waiting: int = 0
    """Pairs that were read and are not held yet."""

    @property
    def done(self) -> float:
        """How much of the work is done, 0 to 1, as far as can be told."""
        through = self.held + self.known
        return self.read * through / max(1, through + self.waiting)


def audit(request: AuditRequest, going: Callable[[Tally], None] = lambda tally: None) -> Tally:
    """Audit an archive; what is not known yet is held, and kept in the store at once.

    Args:
        request: What is audited.
        going: Is given the tally now and then.

    Raises:
        InputError, ExchangeError: a source, the store or the cluster cannot be used; what was kept until then stays.
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
        self._tally = Tally()
        editors = chosen_editors(() if "all" in request.editors else request.editors)
        if request.called and len(editors) == 1:
            editors = [editors[0].with_(name=request.called)]
        if len({each.name for each in editors}) < len(editors):
            raise InputError("Two of the editors have the same name. Audit them into stores of their own.")
        self._settings = Settings(tuple(editors), request.longest, request.memory)
        self._keys = self._settings.keys
        self._sources = sources_of(request)
        self._run = store.next_run()
        self._crew: Crew | None = None
        self._under_way: dict[Future[list[Done]], list[Task]] = {}

    def run(self) -> Tally:
        """Do all of it."""
        if self._request.cluster is not None:
            self._crew_at_work()  # what cannot be reached is told before anything is read
        here = str(Path().absolute())
        editors = [EditorRow(each.name, each.asked, here) for each in self._settings.editors]
        self._store.note_ways(self._sources, editors)
        try:
            for batch in self._batches():
                self._begin(batch)
                while len(self._under_way) >= max(1, self._crew_at_work().size) * _AHEAD:
                    self._take()
            while self._under_way:
                self._take()
        finally:
            if self._crew is not None:
                self._crew.close()
        self._tally.gone = self._store.forget([each.name for each in self._sources], self._run)
        self._going(self._tally)
        return self._tally

    def _posts(self) -> Iterator[Post]:
        for number, source in enumerate(self._sources):
            for post in audit_sources.read(source):
                self._tally.read = (number + post.read) / len(self._sources)
                yield post

    def _batches(self) -> Iterator[list[Task]]:
        """Yield what is not known yet, in batches."""
        batch: list[Task] = []
        size = 0
        stream = self._posts()
        while some := list(islice(stream, _SEEN)):
            for post, (number, known) in zip(some, self._store.see(some, self._run), strict=True):
                self._tally.pieces += 1
                hashed = post.hash
                new = tuple(name for name, key in self._keys.items() if known.get(name) != (hashed, key))
                self._tally.known += len(self._keys) - len(new)
                if new:
                    batch.append((number, hashed, post.markup, new))
                    size += len(post.markup) * len(new)
                    self._tally.waiting += len(new)
                if size >= _BATCH:
                    yield batch
                    batch, size = [], 0
            self._going(self._tally)
        if batch:
            yield batch

    def _crew_at_work(self) -> Crew:
        if self._crew is None:
            if self._request.cluster is None:
                self._crew = LocalCrew(self._settings, self._request.workers)
            else:
                from verse_tray.tasks.audit_cluster import ClusterCrew

                self._crew = ClusterCrew(self._settings, self._request.cluster)
        return self._crew

    def _begin(self, batch: list[Task]) -> None:
        self._under_way[self._crew_at_work().submit(batch)] = batch

    def _take(self) -> None:
        """Wait for a batch, and keep what came of it."""
        done, _ = wait(self._under_way, timeout=_LOOK, return_when=FIRST_COMPLETED)
        if not done:
            _ = self._crew_at_work().size  # says so where it has had nobody for too long
        for future in done:
            batch = self._under_way.pop(future)
            error = None if future.cancelled() else future.exception()
            if error is None and not future.cancelled():
                self._keep(future.result())
            elif self._crew_at_work().lost(error or CancelledError()):
                self._once_more(batch)
            elif error is not None:
                raise error

    def _keep(self, results: list[Done]) -> None:
        self._store.keep([(number, hashed, each) for number, hashed, each in results])
        self._tally.held += len(results)
        self._tally.waiting -= len(results)
        self._going(self._tally)

    def _once_more(self, batch: list[Task]) -> None:
        """Hold the pieces of a batch one by one, as whoever held it was lost; one alone is set aside."""
        if len(batch) > 1:
            for task in batch:
                self._begin([task])
            return
        ((number, hashed, _, names),) = batch
        why = "the workers that held it were ended"
        self._keep([(number, hashed, set_aside(name, self._keys[name], why)) for name in names])
