"""What is shown of an audit, asked of its store."""

from __future__ import annotations

from pathlib import Path

from verse_tray.audit import answers as ask
from verse_tray.audit.store import Store
from verse_tray.audit.where import where
from verse_tray.reports.audit_text import Answers

_WORST = 40  # pieces that are asked for where not all are


def answers(path: Path, asked: str, against: Path | None = None, *, every: bool = False) -> Answers:
    """Return what a store says.

    Args:
        path: The store.
        asked: A filter; empty for all.
        against: An older store, to be told what has changed since; None for none.
        every: Whether all pieces are wanted.

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
        return Answers(
            str(path),
            ask.count(store),
            ask.verdicts(store, condition),
            ask.causes(store, condition),
            ask.rows(store, condition, -1 if every else _WORST),
            ask.rows(store, condition, -1 if every else _WORST, nearly_full=True),
            drifted,
        )
    finally:
        store.close()
