"""Repairing what an audit found: pieces that are damaged or broken, rewritten for their editors into a folder."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator
from pathlib import Path

from msgspec import Struct

from verse_tray.audit import answers as ask
from verse_tray.audit.answers import Row
from verse_tray.audit.judged import Judged
from verse_tray.audit.store import Store
from verse_tray.audit.where import where
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import as_slug, listed, spelling
from verse_tray.tasks import audit_sources
from verse_tray.tasks.audit_refit import Bounds, Missed, Refit, Wanted
from verse_tray.tasks.outputs import write_whole

INDEX = "pieces.csv"
"""What is in the folder of repaired pieces, as a table."""
_BAD = frozenset(("damaged", "broken"))
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
    bounds: Bounds = Bounds()
    """What it may take."""


class Repaired(Struct, frozen=True):
    """A piece that was to be repaired."""

    row: Row
    """What the audit found."""
    now: Judged
    """What came of it."""
    files: tuple[str, ...]
    """What was written, from the folder; none where nothing helps."""


class Repair:
    """The work."""

    def __init__(self, request: RepairRequest) -> None:
        """Ask the store.

        Raises:
            InputError: the store, the filter, an editor or the folder cannot be used.
        """
        self._out = Path(request.out)
        if self._out.exists() and (not self._out.is_dir() or (any(self._out.iterdir()) and not self._index.is_file())):
            raise InputError(
                f"-o {request.out}: name a folder that is new, empty, or was written by this command. Nothing is "
                "written among other files, so that none is lost."
            )
        path = Path(request.store)
        store = Store(path, existing=True)
        try:
            audit_sources.keep_apart((self._out,), store.sources())
            known = [each.name for each in store.editors()]
            for name in request.editors:
                if name not in known:
                    near = spelling(name, known)
                    raise InputError(f"--editor {name}: not in this store{near} It has {listed(known)}.")
            found = ask.rows(store, where(request.where))
        finally:
            store.close()
        editors = request.editors or known
        self._rows = {
            Wanted(row.source, row.name, row.editor): row
            for row in found
            if row.verdict in _BAD and row.editor in editors
        }
        self._refit = Refit(path, list(self._rows), request.bounds)
        self._names: dict[str, Row] = {}

    @property
    def _index(self) -> Path:
        return self._out / INDEX

    @property
    def count(self) -> int:
        """How many pieces there are, each counted for every editor."""
        return len(self._rows)

    @property
    def missed(self) -> Missed:
        """What could not be repaired, as it is not what was audited."""
        return self._refit.missed

    def run(self, going: Callable[[int, int], None] = lambda done, of: None) -> list[Repaired]:
        """Repair them, and write each as it comes; return them, as the store has them in order.

        Raises:
            InputError, ExchangeError: none of the sources can be read.
            OutputError: something cannot be written.
        """
        done: dict[Wanted, Repaired] = {}
        write_whole(self._index, _table([]), again=True)  # by this the folder is known, should the run be ended
        for wanted, now in self._refit.run():
            row = self._rows[wanted]
            done[wanted] = Repaired(row, now, tuple(self._written(row, now)))
            going(len(done), self.count)
        ordered = [done[each] for each in self._rows if each in done]
        write_whole(self._index, _table(ordered), again=True)
        return ordered

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
        while self._names.setdefault(base.lower(), row) is not row:
            base = f"{wanted}-{number}"
            number += 1
        return base


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
