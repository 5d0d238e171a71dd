"""Pieces that an audit has found, read once more and rewritten for their editors."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait
from pathlib import Path
from typing import NamedTuple

from msgspec import Struct

from verse_tray.audit.judged import Judged, key_of
from verse_tray.audit.store import SourceRow, Store
from verse_tray.editors.load import Editor, load_editor
from verse_tray.model.errors import InputError, VerseTrayError
from verse_tray.model.phrasing import listed
from verse_tray.tasks import audit_sources
from verse_tray.tasks.audit_crew import LocalCrew
from verse_tray.tasks.audit_worker import Done, Settings, Task
from verse_tray.tasks.sending_target import within
from verse_tray.tasks.side_by_side import cores

_AHEAD = 3  # pieces for each worker that wait


class Wanted(NamedTuple):
    """A piece that is to be rewritten for an editor."""

    source: str
    name: str
    editor: str


class Bounds(Struct, frozen=True):
    """What it may take."""

    workers: int = 0
    """How many processes; 0 for as many as can work on this machine at once."""
    longest: float = 300.0
    """Seconds that a piece may take."""
    memory: int = 1500
    """Megabytes that it may take."""


class Missed(Struct):
    """What could not be rewritten, as it is not what was audited."""

    changed: list[str]
    """Names of pieces that have changed since."""
    gone: list[str]
    """Names of pieces that are not in their sources any more."""
    unread: list[str]
    """What is wrong with sources that could not be read; the pieces of others were rewritten."""


class Refit:
    """The work."""

    def __init__(self, path: Path, wanted: Sequence[Wanted], bounds: Bounds) -> None:
        """Ask a store where its pieces are, and load the editors.

        Raises:
            InputError: the store cannot be used, or an editor is not described as at the audit.
            UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
        """
        self._wanted = wanted
        self._bounds = bounds
        self.missed = Missed([], [], [])
        """What could not be rewritten, once all was done."""
        store = Store(path, existing=True)
        try:
            self._sources = store.sources()
            used = {each.editor for each in wanted}
            self._editors = {
                each.name: _loaded(each.name, each.asked, each.folder) for each in store.editors() if each.name in used
            }
            keys = {str(name): key for name, key in store.rows("SELECT editor, max(key) FROM results GROUP BY 1")}
            found = store.rows("SELECT source, name, hash FROM posts")
            self._hashes = {(str(source), str(name)): str(hashed) for source, name, hashed in found}
        finally:
            store.close()
        other = [name for name, editor in self._editors.items() if keys[name] != key_of(editor)]
        if other:
            raise InputError(
                f"{path}: {listed(other)} {'is' if len(other) == 1 else 'are'} not described as at the audit. "
                "Audit again first."
            )

    def run(self) -> Iterator[tuple[Wanted, Judged]]:
        """Yield each piece with what came of it, as it comes.

        Raises:
            InputError, ExchangeError: none of the sources can be read.
        """
        bounds = self._bounds
        settings = Settings(tuple(self._editors.values()), bounds.longest, bounds.memory, fits=True)
        workers = bounds.workers or cores()
        crew = LocalCrew(settings, workers)
        under_way: dict[Future[list[Done]], Wanted] = {}
        try:
            for each, task in self._tasks():
                under_way[crew.submit([task])] = each
                if len(under_way) >= workers * _AHEAD:
                    yield from _taken(under_way)
            while under_way:
                yield from _taken(under_way)
        finally:
            crew.close()

    def _tasks(self) -> Iterator[tuple[Wanted, Task]]:
        """Yield what is to be done; sources are read once more for that."""
        by_source: dict[str, dict[str, list[Wanted]]] = {}
        for each in self._wanted:
            by_source.setdefault(each.source, {}).setdefault(each.name, []).append(each)
        for source in self._sources:
            if wanted := by_source.get(source.name):
                try:
                    yield from self._of_source(source, wanted)
                    self.missed.gone += wanted
                except VerseTrayError as error:
                    self.missed.unread.append(str(error))
                    if len(self.missed.unread) == len(by_source):
                        raise

    def _of_source(self, source: SourceRow, wanted: dict[str, list[Wanted]]) -> Iterator[tuple[Wanted, Task]]:
        for post in audit_sources.read(source):
            asked = wanted.pop(post.name, [])
            if asked and post.hash != self._hashes[source.name, post.name]:
                self.missed.changed.append(post.name)
                asked = []
            for each in asked:
                yield each, (0, post.hash, post.markup, (each.editor,))
            if not wanted:
                return


def _taken(under_way: dict[Future[list[Done]], Wanted]) -> Iterator[tuple[Wanted, Judged]]:
    done, _ = wait(under_way, return_when=FIRST_COMPLETED)
    for future in done:
        each = under_way.pop(future)
        ((_, _, now),) = future.result()
        yield each, now


def _loaded(name: str, asked: str, folder: str) -> Editor:
    return load_editor(within(asked, Path(folder))).with_(name=name)
