"""What an audit found, asked of its store."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from verse_tray.audit.mends import mend_of
from verse_tray.audit.store import Store
from verse_tray.audit.where import EVERYTHING, Where

_JOINED = "results JOIN posts ON posts.id = results.post"
_NEARLY = 0.9  # of a limit
WORST = ("set-aside", "broken", "damaged", "rewritten", "intact")
"""Verdicts, the worst first."""
_RANK = f"CASE results.verdict {' '.join(f'WHEN {each!r} THEN {rank}' for rank, each in enumerate(WORST))} END"


class Verdicts(NamedTuple):
    """How many pieces an editor keeps, rewrites, damages, breaks; and how many were set aside."""

    editor: str
    counts: dict[str, int]
    """By verdict."""


class Trial(NamedTuple):
    """What came of rewriting some of the pieces that a rule hurts."""

    tried: int
    """How many were rewritten."""
    saved: int
    """How many of them are not damaged any more."""
    better: int
    """How many others give readers more than before."""


class Hurting(NamedTuple):
    """A rule that hurts pieces."""

    rule: str
    pieces: int
    """How many pieces it hurts, each counted once."""
    places: int
    """In how many places, in all editors."""
    alone: int
    """How many pieces are damaged or broken in an editor where nothing else hurts them: to mend it would save them."""
    editors: tuple[str, ...]
    """In which editors."""
    message: str
    """What it says of one of them."""
    example: str
    """The name of that piece."""
    line: int | None
    column: int | None
    mend: str
    """What can be done about it; empty where the message says it."""
    trial: Trial | None = None
    """What came of that with some of the pieces; None where it was not tried."""


class Saved(NamedTuple):
    """What it would save to mend the rules that hurt most."""

    rules: int
    """How many rules."""
    saved: int
    """How many pieces in editors nothing else hurts; one that is damaged in two editors counts twice."""
    of: int
    """How many pieces in editors are damaged or broken."""


class Period(NamedTuple):
    """The pieces of a month, in an editor."""

    editor: str
    month: str
    """Such as ``2026-03``; empty for pieces without a date that can be read."""
    pieces: int
    bad: int
    """How many of them are damaged, broken or set aside."""


class Fill(NamedTuple):
    """How many pieces use up so much of the limit that they are nearest to."""

    editor: str
    limit: str
    tenth: int
    """Tenths of the limit, rounded down: 0 to 9 within it, 10 to 15 (and more) over it."""
    pieces: int


class Row(NamedTuple):
    """A piece in an editor."""

    source: str
    name: str
    address: str
    date: str
    editor: str
    verdict: str
    alike: int
    text_kept: int
    text_of: int
    size: int
    stored: int
    limit: str
    full: float
    why: str
    rules: str
    """The rules that hurt it, the worst first, with commas between."""


class Drifted(NamedTuple):
    """A piece whose verdict is another than it was."""

    source: str
    name: str
    editor: str
    was: str
    now: str
    because: str
    """``piece`` where the piece has changed, ``editor`` where the editor (or the program) has."""
    rules: str
    """The rules that hurt it now, and did not before, with commas between."""


def count(store: Store) -> int:
    """Return how many pieces there are."""
    return int(str(store.rows("SELECT count(*) FROM posts")[0][0]))


def verdicts(store: Store, where: Where = EVERYTHING) -> list[Verdicts]:
    """Return how many pieces have which verdict, by editor."""
    asked = f"SELECT editor, verdict, count(*) FROM {_JOINED} WHERE ({where.sql}) GROUP BY 1, 2 ORDER BY 1"
    found: dict[str, dict[str, int]] = {}
    for editor, verdict, number in store.rows(asked, where.values):
        found.setdefault(str(editor), {})[str(verdict)] = int(str(number))
    return [Verdicts(editor, counts) for editor, counts in found.items()]


def causes(store: Store, where: Where = EVERYTHING, most: int = 1000) -> list[Hurting]:
    """Return the rules that hurt most pieces, the worst first."""
    asked = f"""
        SELECT causes.rule, count(DISTINCT causes.post), sum(causes.count),
          count(DISTINCT CASE WHEN alone.rules = 1 AND verdict IN ('damaged', 'broken') THEN causes.post END),
          group_concat(DISTINCT causes.editor), causes.message, posts.name, causes.line, causes."column",
          max(causes.harm)
        FROM causes JOIN results ON results.post = causes.post AND results.editor = causes.editor
        JOIN posts ON posts.id = results.post
        JOIN (SELECT post, editor, count(*) AS rules FROM causes GROUP BY 1, 2) AS alone
          ON alone.post = causes.post AND alone.editor = causes.editor
        WHERE ({where.sql}) GROUP BY 1
        ORDER BY count(DISTINCT CASE WHEN verdict IN ('damaged', 'broken') THEN causes.post END) DESC, 2 DESC, 3 DESC
        LIMIT ?"""
    return [
        Hurting(
            str(row[0]), int(str(row[1])), int(str(row[2])), int(str(row[3])), tuple(sorted(str(row[4]).split(","))),
            str(row[5]), str(row[6]), _number(row[7]), _number(row[8]), mend_of(str(row[0])),
        )
        for row in store.rows(asked, (*where.values, most))
    ]  # fmt: skip


def _number(value: object) -> int | None:
    return None if value is None else int(str(value))


def examples(store: Store, rule: str, count: int, where: Where = EVERYTHING) -> list[tuple[str, str, str]]:
    """Return some pieces, each by source, name and editor, that a rule hurts: those that little else hurts first."""
    others = "SELECT count(*) FROM causes AS c WHERE c.post = results.post AND c.editor = results.editor"
    asked = f"""
        SELECT source, name, results.editor FROM {_JOINED} WHERE verdict IN ('damaged', 'broken') AND ({where.sql})
          AND EXISTS (SELECT 1 FROM causes WHERE causes.post = results.post AND causes.editor = results.editor
            AND causes.rule = ?)
        ORDER BY ({others}), posts.hash, results.editor LIMIT ?"""
    return [(str(a), str(b), str(c)) for a, b, c in store.rows(asked, (*where.values, rule, count))]


def saved(store: Store, rules: Sequence[str], where: Where = EVERYTHING) -> Saved:
    """Return what it would save to mend some rules, all of them."""
    marks = ", ".join("?" * len(rules))
    asked = f"""
        SELECT count(*), sum(
          EXISTS (SELECT 1 FROM causes WHERE causes.post = results.post AND causes.editor = results.editor)
          AND NOT EXISTS (SELECT 1 FROM causes WHERE causes.post = results.post AND causes.editor = results.editor
            AND causes.rule NOT IN ({marks})))
        FROM {_JOINED} WHERE verdict IN ('damaged', 'broken') AND ({where.sql})"""
    of, found = store.rows(asked, (*rules, *where.values))[0]
    return Saved(len(rules), int(str(found or 0)), int(str(of)))


def periods(store: Store, where: Where = EVERYTHING) -> list[Period]:
    """Return how many pieces of each month are damaged, broken or set aside, by editor and month."""
    asked = f"""
        SELECT results.editor, CASE WHEN date GLOB '[12][0-9][0-9][0-9]-[01][0-9]*' THEN substr(date, 1, 7) ELSE '' END,
          count(*), sum(verdict IN ('damaged', 'broken', 'set-aside'))
        FROM {_JOINED} WHERE ({where.sql}) GROUP BY 1, 2 ORDER BY 1, 2"""
    return [Period._make(row) for row in store.rows(asked, where.values)]


def fills(store: Store, where: Where = EVERYTHING) -> list[Fill]:
    """Return how far pieces use up limits."""
    tenth = "CAST(full * 10 AS INTEGER)"
    asked = f"""
        SELECT results.editor, "limit",
          CASE WHEN full > 1 THEN min(15, max(10, {tenth})) ELSE min(9, {tenth}) END, count(*)
        FROM {_JOINED} WHERE "limit" <> '' AND ({where.sql}) GROUP BY 1, 2, 3 ORDER BY 1, 2, 3"""
    return [Fill._make(row) for row in store.rows(asked, where.values)]


def rows(store: Store, where: Where = EVERYTHING, most: int = -1, *, nearly_full: bool = False) -> list[Row]:
    """Return pieces in editors, the worst first.

    Args:
        store: The store.
        where: Which of them.
        most: How many; -1 for all.
        nearly_full: Whether only those are meant that are near a limit, the nearest first.
    """
    order = "full DESC" if nearly_full else f"{_RANK}, alike"
    only = f" AND full >= {_NEARLY}" if nearly_full else ""
    asked = f"""
        SELECT source, name, address, date, results.editor, verdict, alike, text_kept, text_of, size, stored, "limit",
          full, why, (SELECT group_concat(rule, ', ') FROM (SELECT rule FROM causes WHERE causes.post = results.post
             AND causes.editor = results.editor ORDER BY harm DESC))
        FROM {_JOINED} WHERE ({where.sql}){only} ORDER BY {order}, name, results.editor LIMIT ?"""
    return [Row._make((*row[:14], row[14] or "")) for row in store.rows(asked, (*where.values, most))]


def drifted(store: Store, where: Where = EVERYTHING) -> list[Drifted]:
    """Return the pieces whose verdict is another than in the store that is attached as ``old``, the worst first."""
    new = """
        SELECT group_concat(rule, ', ') FROM causes WHERE causes.post = results.post AND causes.editor = results.editor
          AND rule NOT IN (SELECT rule FROM old.causes AS o WHERE o.post = was.post AND o.editor = was.editor)"""
    asked = f"""
        SELECT posts.source, posts.name, results.editor, was.verdict, results.verdict,
          CASE WHEN was.hash = results.hash THEN 'editor' ELSE 'piece' END, ({new})
        FROM {_JOINED} JOIN old.posts AS before ON before.source = posts.source AND before.name = posts.name
        JOIN old.results AS was ON was.post = before.id AND was.editor = results.editor
        WHERE was.verdict <> results.verdict AND ({where.sql}) ORDER BY {_RANK}, results.alike, posts.name"""
    return [Drifted._make((*row[:6], row[6] or "")) for row in store.rows(asked, where.values)]
