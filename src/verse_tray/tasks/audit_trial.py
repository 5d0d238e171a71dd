"""Whether mending helps: a few of the pieces that a rule hurts are rewritten, and counted by what that saves."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from verse_tray.audit import answers as ask
from verse_tray.audit.answers import Hurting, Trial
from verse_tray.audit.judged import Judged
from verse_tray.audit.store import Store
from verse_tray.audit.where import where
from verse_tray.tasks.audit_refit import Bounds, Refit, Wanted

_WHOLE = frozenset(("intact", "rewritten"))


def tried(
    path: Path,
    causes: Sequence[Hurting],
    asked: str,
    count: int,
    workers: int = 0,
    going: Callable[[int, int], None] = lambda done, of: None,
) -> tuple[list[Hurting], list[str]]:
    """Return rules with what came of rewriting some of the pieces that they hurt, and what could not be read for it.

    Args:
        path: The store.
        causes: The rules.
        asked: A filter; empty for all.
        count: How many pieces of each are rewritten.
        workers: How many processes; 0 for as many as can work on this machine at once.
        going: Is given how many are rewritten, of how many.

    Raises:
        InputError, ExchangeError: the store, or none of the sources, can be used.
    """
    store = Store(path, existing=True)
    try:
        chosen = {
            each.rule: [Wanted(*row) for row in ask.examples(store, each.rule, count, where(asked))] for each in causes
        }
    finally:
        store.close()
    wanted = list(dict.fromkeys(each for some in chosen.values() for each in some))
    done: dict[Wanted, Judged] = {}
    refit = Refit(path, wanted, Bounds(workers))
    for each, now in refit.run():
        done[each] = now
        going(len(done), len(wanted))
    told = [each._replace(trial=_trial([done[one] for one in chosen[each.rule] if one in done])) for each in causes]
    return told, refit.missed.unread


def _trial(done: Sequence[Judged]) -> Trial:
    saved = [each for each in done if each.verdict in _WHOLE]
    better = [each for each in done if each not in saved and each.fit is not None and each.fit.after > each.fit.before]
    return Trial(len(done), len(saved), len(better))
