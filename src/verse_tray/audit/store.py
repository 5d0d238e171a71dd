"""The store of an audit: one SQLite file, whole at any moment, that several runs may share."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple
from urllib.parse import quote

from verse_tray.audit.judged import Judged
from verse_tray.audit.post import Post
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import storable

FORMAT = "verse-tray-audit/2"
_SCHEMA = """
CREATE TABLE IF NOT EXISTS about (name TEXT PRIMARY KEY, value TEXT NOT NULL);
CREATE TABLE IF NOT EXISTS sources (
  name TEXT PRIMARY KEY, site TEXT NOT NULL, folder TEXT NOT NULL, "column" TEXT, "table" TEXT
) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS editors (
  name TEXT PRIMARY KEY, asked TEXT NOT NULL, folder TEXT NOT NULL
) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS posts (
  id INTEGER PRIMARY KEY, source TEXT NOT NULL, name TEXT NOT NULL, address TEXT NOT NULL, date TEXT NOT NULL,
  hash TEXT NOT NULL, size INTEGER NOT NULL, seen INTEGER NOT NULL, UNIQUE (source, name)
);
CREATE TABLE IF NOT EXISTS results (
  post INTEGER NOT NULL REFERENCES posts (id) ON DELETE CASCADE, editor TEXT NOT NULL, hash TEXT NOT NULL,
  key TEXT NOT NULL, verdict TEXT NOT NULL, alike INTEGER NOT NULL, text_kept INTEGER NOT NULL,
  text_of INTEGER NOT NULL, stored INTEGER NOT NULL, "limit" TEXT NOT NULL, full REAL NOT NULL,
  seconds REAL NOT NULL, why TEXT NOT NULL,
  PRIMARY KEY (post, editor)
) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS causes (
  post INTEGER NOT NULL REFERENCES posts (id) ON DELETE CASCADE, editor TEXT NOT NULL, rule TEXT NOT NULL,
  count INTEGER NOT NULL, harm INTEGER NOT NULL, line INTEGER, "column" INTEGER, message TEXT NOT NULL,
  PRIMARY KEY (post, editor, rule)
) WITHOUT ROWID;
CREATE INDEX IF NOT EXISTS causes_by_rule ON causes (rule, editor);
"""


class SourceRow(NamedTuple):
    """A source, and how it was read."""

    name: str
    """As it was named."""
    site: str = ""
    """The site that it is; empty for what is a path or a pattern."""
    folder: str = ""
    """The folder that it was named from."""
    column: str | None = None
    """Column of markup, where one was named."""
    table: str | None = None
    """Table of a database, where one was named."""


class EditorRow(NamedTuple):
    """An editor, and where it is described."""

    name: str
    """What it is called in the store."""
    asked: str
    """By which name or path it was asked for."""
    folder: str
    """The folder that the path was named from."""


_PATIENCE = 60  # seconds that another run may keep it locked


class Store:
    """The file."""

    def __init__(self, path: Path, *, existing: bool = False) -> None:
        """Open it, or make it.

        Args:
            path: Where it is.
            existing: Whether it has to be there already.

        Raises:
            InputError: it cannot be used: foreign, locked, of another version.
        """
        self.path = path
        if path.is_dir() or not path.parent.is_dir():
            what = "this is a folder" if path.is_dir() else f"there is no folder {path.parent}"
            raise InputError(f"{path}: {what}. Name a file for the store, in a folder that there is.")
        if existing and not path.is_file():
            raise InputError(f"{path}: there is no such store. Give one that an audit has written.")
        with self._told():
            self._connection = sqlite3.connect(path, timeout=_PATIENCE, uri=True)
            self._connection.execute("PRAGMA foreign_keys = ON")
            self._see_format(existing=existing)
            self._share()
            self._connection.execute("PRAGMA synchronous = NORMAL")

    def _share(self) -> None:
        try:
            self._connection.execute("PRAGMA journal_mode = WAL")
        except sqlite3.OperationalError as error:
            # SQLite does not wait here: another run opens it at this moment, and makes the same change
            if error.sqlite_errorcode != sqlite3.SQLITE_BUSY:
                raise

    def _see_format(self, *, existing: bool) -> None:
        tables = {
            str(row[0]) for row in self._connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        }
        if tables and "about" not in tables:
            raise InputError(f"{self.path}: this database is none of an audit's. Name another file with --into.")
        if not tables and existing:
            raise InputError(f"{self.path}: this file is empty. Give a store that an audit has written.")
        if not tables:
            # in one step: no other run meets a store without its tables, or tables without their format
            self._connection.executescript(
                f"BEGIN IMMEDIATE; {_SCHEMA} INSERT OR IGNORE INTO about VALUES ('format', '{FORMAT}'); COMMIT;"
            )
        form = self._connection.execute("SELECT value FROM about WHERE name = 'format'").fetchone()
        if form is None or form[0] != FORMAT:
            said = "none" if form is None else repr(form[0])
            raise InputError(f"{self.path}: its format is {said}, and this version knows {FORMAT!r}. Begin another.")

    @contextmanager
    def _told(self) -> Iterator[None]:
        try:
            yield
        except sqlite3.Error as error:
            raise InputError(f"{self.path}: the store cannot be used: {error}.") from None

    def close(self) -> None:
        """Close it."""
        self._connection.close()

    def next_run(self) -> int:
        """Return a number for a run, greater than those before."""
        with self._told(), self._connection:
            self._connection.execute(
                "INSERT INTO about VALUES ('run', '1') ON CONFLICT (name) DO UPDATE SET value = value + 1"
            )
            return int(self._connection.execute("SELECT value FROM about WHERE name = 'run'").fetchone()[0])

    def note_ways(self, sources: Iterable[SourceRow], editors: Iterable[EditorRow]) -> None:
        """Keep how sources are read, and where editors are described."""
        with self._told(), self._connection:
            self._connection.executemany("INSERT OR REPLACE INTO editors VALUES (?, ?, ?)", editors)
            self._connection.executemany(
                "INSERT OR REPLACE INTO sources VALUES (?, ?, ?, ?, ?)",
                [(storable(each.name), each.site, storable(each.folder), each.column, each.table) for each in sources],
            )

    def sources(self) -> list[SourceRow]:
        """Return the sources."""
        asked = 'SELECT name, site, folder, "column", "table" FROM sources ORDER BY name'
        return [SourceRow(*row) for row in self.rows(asked)]  # type: ignore[arg-type]

    def editors(self) -> list[EditorRow]:
        """Return the editors."""
        return [EditorRow(*map(str, row)) for row in self.rows("SELECT name, asked, folder FROM editors ORDER BY name")]

    def see(self, posts: Iterable[Post], run: int) -> list[tuple[int, dict[str, tuple[str, str]]]]:
        """Note that a run has come by pieces; return their numbers, and hash and key of their results by editor."""
        found = []
        with self._told(), self._connection:
            for post in posts:
                number = self._connection.execute(
                    "INSERT INTO posts (source, name, address, date, hash, size, seen) VALUES (?, ?, ?, ?, ?, ?, ?) "
                    "ON CONFLICT (source, name) DO UPDATE SET address = excluded.address, date = excluded.date, "
                    "hash = excluded.hash, size = excluded.size, seen = max(seen, excluded.seen) RETURNING id",
                    (
                        *map(storable, (post.source, post.name, post.address, post.date)),
                        post.hash,
                        len(post.markup),
                        run,
                    ),
                ).fetchone()[0]
                rows = self._connection.execute("SELECT editor, hash, key FROM results WHERE post = ?", (number,))
                found.append((int(number), {str(editor): (str(hashed), str(key)) for editor, hashed, key in rows}))
        return found

    def keep(self, results: Iterable[tuple[int, str, Judged]]) -> None:
        """Keep results: the piece's number, its hash, and what came of it."""
        with self._told(), self._connection:
            for number, hashed, each in results:
                self._connection.execute("DELETE FROM causes WHERE post = ? AND editor = ?", (number, each.editor))
                kept = self._connection.execute(
                    "INSERT OR REPLACE INTO results SELECT ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ? "
                    "WHERE EXISTS (SELECT 1 FROM posts WHERE id = ?)",
                    (
                        number, each.editor, hashed, each.key, each.verdict, each.alike, each.text_kept, each.text_of,
                        each.stored, each.limit, each.full, each.seconds, each.why, number,
                    ),
                )  # fmt: skip
                if not kept.rowcount:  # another run has forgotten the piece meanwhile
                    continue
                self._connection.executemany(
                    "INSERT OR REPLACE INTO causes VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                    [
                        (
                            number,
                            each.editor,
                            cause.rule,
                            cause.count,
                            cause.harm,
                            cause.line,
                            cause.column,
                            storable(cause.message),
                        )
                        for cause in each.causes
                    ],
                )

    def forget(self, sources: Iterable[str], run: int) -> int:
        """Forget the pieces of some sources that a run has not come by; return how many."""
        with self._told(), self._connection:
            return sum(
                self._connection.execute(
                    "DELETE FROM posts WHERE source = ? AND seen < ?", (storable(source), run)
                ).rowcount
                for source in sources
            )

    def attach(self, old: Path) -> None:
        """Make the tables of an older store known as ``old.posts`` and so on.

        Raises:
            InputError: it is none.
        """
        Store(old, existing=True).close()
        with self._told():
            self._connection.execute("ATTACH ? AS old", (f"file:{quote(str(old))}?mode=ro",))

    def rows(self, statement: str, values: Iterable[object] = ()) -> list[tuple[object, ...]]:
        """Return the rows that a question has for an answer."""
        with self._told():
            return self._connection.execute(statement, tuple(values)).fetchall()
