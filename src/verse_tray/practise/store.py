"""What the practice site keeps, in one SQLite file."""

from __future__ import annotations

import hashlib
import secrets
import sqlite3
from collections.abc import Iterable
from pathlib import Path
from threading import RLock
from typing import Any

import msgspec
from msgspec import Struct

from verse_tray.model.moments import now

_SCHEMA = """
CREATE TABLE IF NOT EXISTS entries (
  slug TEXT PRIMARY KEY, channel TEXT NOT NULL, sent TEXT NOT NULL, stored TEXT NOT NULL, published TEXT NOT NULL,
  state TEXT NOT NULL, properties TEXT NOT NULL, created TEXT NOT NULL, updated TEXT NOT NULL, deleted INTEGER NOT NULL
);
CREATE TABLE IF NOT EXISTS files (name TEXT PRIMARY KEY, kind TEXT NOT NULL, data BLOB NOT NULL, created TEXT NOT NULL);
CREATE TABLE IF NOT EXISTS tokens (hash TEXT PRIMARY KEY, scopes TEXT NOT NULL);
CREATE TABLE IF NOT EXISTS sessions (hash TEXT PRIMARY KEY, role TEXT NOT NULL);
"""


class Entry(Struct):
    """A post, or a page that was made in one of the editors."""

    slug: str
    """Its name in its address."""
    channel: str
    """The editor that it is written in."""
    sent: str = ""
    """What was pasted or sent last."""
    stored: str = ""
    """What the editor made of it."""
    published: str = ""
    """What readers get; empty while it was never published."""
    state: str = "draft"
    """``draft`` or ``published``."""
    properties: dict[str, list[Any]] = {}
    """Other properties, by their names in Microformats."""
    created: str = ""
    """When it was made, as RFC 3339 has it."""
    updated: str = ""
    """When it was changed last."""
    deleted: bool = False
    """Whether it was deleted; it can be brought back."""


def hashed(secret: str) -> str:
    """Return what is kept of a secret."""
    return hashlib.sha256(secret.encode("utf-8", "surrogatepass")).hexdigest()


class Store:
    """Entries, files, tokens and sessions. It can be used by several threads."""

    def __init__(self, path: Path) -> None:
        """Open the file, or make it.

        Raises:
            sqlite3.Error: it cannot be used.
        """
        self._lock = RLock()
        self._connection = sqlite3.connect(path, check_same_thread=False)
        with self._lock, self._connection:
            self._connection.execute("PRAGMA journal_mode = WAL")
            self._connection.execute("PRAGMA synchronous = NORMAL")
            self._connection.executescript(_SCHEMA)
            self._connection.execute("DELETE FROM sessions")

    def close(self) -> None:
        """Close the file."""
        with self._lock:
            self._connection.close()

    def _rows(self, statement: str, values: Iterable[Any] = ()) -> list[tuple[Any, ...]]:
        with self._lock, self._connection:
            return self._connection.execute(statement, tuple(values)).fetchall()

    def entry(self, slug: str) -> Entry | None:
        """Return an entry, be it deleted or not."""
        rows = self._rows("SELECT * FROM entries WHERE slug = ?", (slug,))
        return _entry(rows[0]) if rows else None

    def entries(self, *, state: str = "", limit: int = 1000, offset: int = 0) -> list[Entry]:
        """Return entries that are not deleted, the latest first; those in a state, or all."""
        where = "deleted = 0" + (" AND state = ?" if state else "")
        values = (*((state,) if state else ()), limit, offset)
        rows = self._rows(
            f"SELECT * FROM entries WHERE {where} ORDER BY created DESC, rowid DESC LIMIT ? OFFSET ?", values
        )
        return [_entry(row) for row in rows]

    def add(self, entry: Entry) -> Entry:
        """Keep a new entry; where its slug is taken, it gets another."""
        entry.created = entry.updated = now()
        base, number = entry.slug, 1
        with self._lock:
            while self.entry(entry.slug) is not None:
                number += 1
                entry.slug = f"{base}-{number}"
            self._write(entry)
        return entry

    def change(self, entry: Entry) -> None:
        """Keep an entry as it is now."""
        entry.updated = now()
        self._write(entry)

    def _write(self, entry: Entry) -> None:
        properties = msgspec.json.encode(entry.properties).decode()
        self._rows(
            "INSERT INTO entries VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (slug) DO UPDATE SET "
            "channel = excluded.channel, sent = excluded.sent, stored = excluded.stored, "
            "published = excluded.published, state = excluded.state, properties = excluded.properties, "
            "updated = excluded.updated, deleted = excluded.deleted",
            (
                entry.slug, entry.channel, entry.sent, entry.stored, entry.published, entry.state, properties,
                entry.created, entry.updated, int(entry.deleted),
            ),
        )  # fmt: skip

    def add_file(self, name: str, kind: str, data: bytes) -> str:
        """Keep a file and return the name under which it is served: its own, behind a few signs of its contents."""
        served = f"{hashlib.sha256(data).hexdigest()[:10]}-{name}"
        self._rows("INSERT OR IGNORE INTO files VALUES (?, ?, ?, ?)", (served, kind, data, now()))
        return served

    def file(self, name: str) -> tuple[str, bytes] | None:
        """Return a file's kind and contents."""
        rows = self._rows("SELECT kind, data FROM files WHERE name = ?", (name,))
        return (str(rows[0][0]), bytes(rows[0][1])) if rows else None

    def last_file(self) -> str | None:
        """Return the name of the file that came last."""
        rows = self._rows("SELECT name FROM files ORDER BY created DESC, rowid DESC LIMIT 1")
        return str(rows[0][0]) if rows else None

    def set_token(self, secret: str, scopes: str) -> None:
        """Let one token in, and no other."""
        self._rows("DELETE FROM tokens")
        self._rows("INSERT INTO tokens VALUES (?, ?)", (hashed(secret), scopes))

    def scopes(self, secret: str) -> frozenset[str] | None:
        """Return what a token may do; None for one that is not known."""
        rows = self._rows("SELECT scopes FROM tokens WHERE hash = ?", (hashed(secret),))
        return frozenset(str(rows[0][0]).split()) if rows else None

    def sign_in(self, role: str) -> str:
        """Begin a session and return its secret."""
        secret = secrets.token_urlsafe(24)
        self._rows("INSERT INTO sessions VALUES (?, ?)", (hashed(secret), role))
        return secret

    def sign_out(self, secret: str) -> None:
        """End a session."""
        self._rows("DELETE FROM sessions WHERE hash = ?", (hashed(secret),))

    def role(self, secret: str) -> str | None:
        """Return the role of a session; None for one that is not known."""
        rows = self._rows("SELECT role FROM sessions WHERE hash = ?", (hashed(secret),))
        return str(rows[0][0]) if rows else None


def _entry(row: tuple[Any, ...]) -> Entry:
    slug, channel, sent, stored, published, state, properties, created, updated, deleted = row
    kept = msgspec.json.decode(properties)
    return Entry(slug, channel, sent, stored, published, state, kept, created, updated, bool(deleted))
