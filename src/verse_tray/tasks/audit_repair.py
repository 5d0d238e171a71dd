"""Repairing what an audit found: pieces that are damaged or broken, rewritten for their editors into a folder."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator
from concurrent.futures import FIRST_COMPLETED, Future, wait
from pathlib import Path

from msgspec import Struct

from verse_tray.audit import answers as ask
from verse_tray.audit.answers import Row
from verse_tray.audit.judged import Judged, key_of
from verse_tray.audit.store import Store
from verse_tray.audit.where import where
from verse_tray.editors.load import Editor, load_editor
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import as_slug, listed, spelling
from verse_tray.tasks import audit_sources
from verse_tray.tasks.audit_crew import LocalCrew
from verse_tray.tasks.audit_worker import Done, Settings, Task
from verse_tray.tasks.outputs import write_whole
from verse_tray.tasks.sending_target import within

INDEX = "pieces.csv"
"""What is in the folder of repaired pieces, as a table."""
_BAD = frozenset(("damaged", "broken"))
_AHEAD = 3  # pieces for each worker that wait
_SAFE = re.compile(r"[\w .()+-]+(/[\w .()+-]+)*\.x?html?", re.ASCII)


class RepairRequest(Struct, frozen=True):
    """What is repaired."""

    store: str
    """The store of the audit."""
    out: str
    """The folder for what is made."""
    where: str = ""
    """A filter; empty for everything that is damaged or broken."""
    editors: tuple[str, ...] = ()
    """For which editors, as they are called in the store; none at all for each."""
    workers: int = 1
    """How many processes."""
    longest: float = 300.0
    """Seconds that a piece may take."""
    memory: int = 1500
    """Megabytes that it may take."""


class Repaired(Struct, frozen=True):
    """A piece that was to be repaired."""

    row: Row
    """What the audit found."""
    now: Judged
    """What came of it."""
    files: tuple[str, ...]
    """What was written, from the folder; none where nothing helps."""


class Missed(Struct):
    """What could not be repaired, as it is not what was audited."""

    changed: list[str]
    """Names of pieces that have changed since."""
    gone: list[str]
    """Names of pieces that are not in their sources any more."""


class Repair:
    """The work."""

    def __init__(self, request: RepairRequest) -> None:
        """Ask the store.

        Raises:
            InputError: the store, the filter, an editor or the folder cannot be used.
        """
        self._request = request
        self._out = Path(request.out)
        if self._out.exists() and (not self._out.is_dir() or (any(self._out.iterdir()) and not self._index.is_file())):
            raise InputError(
                f"-o {request.out}: name a folder that is new, empty, or was written by this command. Nothing is "
                "written among other files, so that none is lost."
            )
        store = Store(Path(request.store), existing=True)
        try:
            self._sources, ways = store.sources(), store.editors()
            audit_sources.keep_apart((self._out,), self._sources)
            known = [each.name for each in ways]
            for name in request.editors:
                if name not in known:
                    raise InputError(
                        f"--editor {name}: not in this store{spelling(name, known)} It has {listed(known)}."
                    )
            found = ask.rows(store, where(request.where))
            self._rows = [row for row in found if row.verdict in _BAD and row.editor in (request.editors or known)]
            keys = {str(name): key for name, key in store.rows("SELECT editor, max(key) FROM results GROUP BY 1")}
        finally:
            store.close()
        used = {row.editor for row in self._rows}
        self._editors = {each.name: _loaded(each.name, each.asked, each.folder) for each in ways if each.name in used}
        other = [name for name, editor in self._editors.items() if keys[name] != key_of(editor)]
        if other:
            raise InputError(
                f"{request.store}: {listed(other)} {'is' if len(other) == 1 else 'are'} not described as at the audit. "
                "Audit again first."
            )
        self.missed = Missed([], [])
        """What could not be repaired."""
        self._names: dict[tuple[str, str], str] = {}

    @property
    def _index(self) -> Path:
        return self._out / INDEX

    @property
    def count(self) -> int:
        """How many pieces there are, each counted for every editor."""
        return len(self._rows)

    def run(self, going: Callable[[int], None] = lambda done: None) -> list[Repaired]:
        """Repair them, and write each as it comes; return them, as the store has them in order.

        Raises:
            InputError: a source cannot be read.
            OutputError: something cannot be written.
        """
        done: list[Repaired] = []
        crew = LocalCrew(
            Settings(tuple(self._editors.values()), self._request.longest, self._request.memory, fits=True),
            self._request.workers,
        )
        under_way: dict[Future[list[Done]], Row] = {}
        try:
            for row, task in self._tasks():
                under_way[crew.submit([task])] = row
                if len(under_way) >= self._request.workers * _AHEAD:
                    done += self._taken(under_way)
                    going(len(done))
            while under_way:
                done += self._taken(under_way)
                going(len(done))
        finally:
            crew.close()
        order = {(row.source, row.name, row.editor): number for number, row in enumerate(self._rows)}
        done.sort(key=lambda each: order[each.row.source, each.row.name, each.row.editor])
        write_whole(self._index, _table(done), again=True)
        return done

    def _tasks(self) -> Iterator[tuple[Row, Task]]:
        """Yield what is to be done; sources are read once more for that."""
        wanted: dict[tuple[str, str], list[Row]] = {}
        for row in self._rows:
            wanted.setdefault((row.source, row.name), []).append(row)
        hashes = self._hashes()
        for source in self._sources:
            if not any(name == source.name for name, _ in wanted):
                continue
            for post in audit_sources.read(source):
                for row in wanted.pop((source.name, post.name), ()):
                    if post.hash != hashes[source.name, post.name]:
                        self.missed.changed.append(post.name)
                    else:
                        yield row, (0, post.hash, post.markup, (row.editor,))
        self.missed.gone += [name for _, name in wanted]

    def _hashes(self) -> dict[tuple[str, str], str]:
        store = Store(Path(self._request.store), existing=True)
        try:
            found = store.rows("SELECT source, name, hash FROM posts")
        finally:
            store.close()
        return {(str(source), str(name)): str(hashed) for source, name, hashed in found}

    def _taken(self, under_way: dict[Future[list[Done]], Row]) -> Iterator[Repaired]:
        done, _ = wait(under_way, return_when=FIRST_COMPLETED)
        for future in done:
            row = under_way.pop(future)
            ((_, _, now),) = future.result()
            yield Repaired(row, now, tuple(self._written(row, now)))

    def _written(self, row: Row, now: Judged) -> Iterator[str]:
        """Write what came of a piece, and why, and yield the names of the files."""
        if now.fit is None or not now.fit.changed:
            return
        base = self._base(row)
        many = len(now.fit.texts) > 1
        for number, text in enumerate(now.fit.texts, 1):
            name = f"{base}-{number}.html" if many else f"{base}.html"
            write_whole(self._out / name, text.encode("utf-8", "surrogatepass"), again=True)
            yield name
        head = [row.address] if row.address not in ("", row.name) else []
        first, *more = now.fit.lines
        about = "\n".join([*head, first.replace("- for ", f"{row.name} for ", 1), *more, ""])
        write_whole(self._out / f"{base}.txt", about.encode("utf-8", "replace"), again=True)
        yield f"{base}.txt"

    def _base(self, row: Row) -> str:
        """Return the name of a piece's files, without ending: a file's own path, or what an address ends in."""
        if _SAFE.fullmatch(row.name) and not any(part.strip(". ") == "" for part in row.name.split("/")):
            base = row.name.rpartition(".")[0]
        else:
            base = as_slug("-".join(row.name.rstrip("/").split("/")[-3:])[-70:], "piece")
        base = f"{row.editor.replace(':', '-')}/{base}"
        wanted, number = base, 2
        while self._names.setdefault(("", base.lower()), row.source + "\0" + row.name) != row.source + "\0" + row.name:
            base = f"{wanted}-{number}"
            number += 1
        return base


def _loaded(name: str, asked: str, folder: str) -> Editor:
    return load_editor(within(asked, Path(folder))).with_(name=name)


def _table(done: list[Repaired]) -> bytes:
    made = io.StringIO(newline="")
    writer = csv.writer(made)
    writer.writerow(["name", "address", "editor", "was", "is", "readers_got", "readers_get", "files", "why_not"])
    for each in done:
        fit = each.now.fit
        before, after = (fit.before, fit.after) if fit is not None else ("", "")
        row = each.row
        cells = [row.name, row.address, row.editor, row.verdict, each.now.verdict, before, after]
        writer.writerow([*cells, " ".join(each.files), each.now.why])
    return made.getvalue().encode("utf-8", "replace")
