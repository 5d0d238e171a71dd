"""What is shown of an audit, asked of its store."""

from __future__ import annotations

from collections.abc import Iterable
from importlib.util import find_spec
from pathlib import Path

from verse_tray.audit import answers as ask
from verse_tray.audit.store import SourceRow, Store
from verse_tray.audit.where import where
from verse_tray.model.errors import InputError, not_installed
from verse_tray.model.moments import now
from verse_tray.reports.audit_text import SHOWN_RULES, Answers
from verse_tray.tasks.audit_sources import keep_apart

_WORST = 40  # pieces that are asked for where not all are


def answers(path: Path, asked: str, against: Path | None = None, *, rows: bool = False, rules: bool = False) -> Answers:
    """Return what a store says.

    Args:
        path: The store.
        asked: A filter; empty for all.
        against: An older store, to be told what has changed since; None for none.
        rows: Whether all pieces are wanted.
        rules: Whether it is told of all rules what it would save to mend them, and not just of the first few.

    Raises:
        InputError: a store or the filter cannot be used.
    """
    condition = where(asked)
    store = Store(path, existing=True)
    try:
        drifted = None
        if against is not None:
            store.attach(against)
            drifted = ask.drifted(store, condition)
        causes = ask.causes(store, condition)
        return Answers(
            str(path),
            ask.count(store),
            ask.verdicts(store, condition),
            causes,
            ask.rows(store, condition, -1 if rows else _WORST),
            ask.rows(store, condition, -1 if rows else _WORST, nearly_full=True),
            ask.saved(store, [each.rule for each in (causes if rules else causes[:SHOWN_RULES])], condition),
            drifted,
        )
    finally:
        store.close()


def see_ready(
    path: Path, sources: Iterable[SourceRow], asked: str, against: Path | None, export: Path | None, report: Path | None
) -> None:
    """See whether what is asked for afterwards can be answered: better now than after hours.

    Args:
        path: The store; it may be to come.
        sources: Sources that are to be audited into it.
        asked: A filter; empty for all.
        against: An older store; None for none.
        export: A table that is to be written; None for none.
        report: A page that is to be written; None for none.

    Raises:
        InputError: the filter, a store or a package cannot be used, or something would be written among the pieces.
    """
    where(asked)
    if against is not None:
        Store(against, existing=True).close()
    known: list[SourceRow] = []
    if path.is_file() and path.stat().st_size:  # an empty one is to come, and may be another run's that begins
        store = Store(path, existing=True)
        known = store.sources()
        store.close()
    keep_apart((export, report), [*sources, *known])
    needed = [(export, "--export", "pandas"), (export, "--export", "pyarrow"), (report, "--report", "matplotlib")]
    for out, option, package in needed:
        if out is not None and find_spec(package) is None:
            raise InputError(not_installed(option, ImportError(name=package), "audit"))


def page(path: Path, asked: str, found: Answers) -> bytes:
    """Return the page of a store, with its figures.

    Args:
        path: The store.
        asked: The filter that the answers were asked with.
        found: The answers.

    Raises:
        InputError: a store or the filter cannot be used, or Matplotlib is missing.
    """
    from verse_tray.reports.archive.figures import MOST_PIECES
    from verse_tray.reports.archive.page import archive_page

    condition = where(asked)
    store = Store(path, existing=True)
    try:
        most = max((sum(each.counts.values()) for each in found.verdicts), default=0)
        few = ask.rows(store, condition) if most <= MOST_PIECES else []
        months, fills = ask.periods(store, condition), ask.fills(store, condition)
        return archive_page(found, few, months, fills, asked, now()[:10])
    finally:
        store.close()
