"""Looking for mistakes in a piece, before any editor has touched it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

from msgspec import Struct

from verse_tray.checks.rule import Mistake
from verse_tray.checks.silence import silenced_in
from verse_tray.checks.table import RULES, module_of, rule
from verse_tray.markup.splice import Splice
from verse_tray.model.findings import Finding
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Site, Subject


class Found(Struct, frozen=True):
    """A mistake as a finding, and what mends it."""

    finding: Finding
    """The finding."""
    mend: tuple[Splice, ...]
    """What mends it with certainty; empty when an author has to decide."""


def find(
    piece: Piece,
    *,
    silenced: Iterable[str] = (),
    sites: tuple[Site, ...] = (),
    region: int | None = None,
    folder: Path | None = None,
) -> tuple[Found, ...]:
    """Return the mistakes of a piece, by place.

    Args:
        piece: The piece.
        silenced: Names of rules that are not to look; ``all`` for none of them. A comment in the piece
            (``<!-- verse-tray silence: links/in-link -->``) does the same.
        sites: The sites on which it will stand.
        region: Width in CSS pixels of the region that will hold it.
        folder: Folder that local addresses of its pictures start from; None to look at no files.

    Raises:
        UnknownRuleError: a silenced rule does not exist.
    """
    silent = set(silenced)
    if "all" in silent:
        return ()
    for name in silent:
        rule(name)
    with collection_paused():
        subject = Subject(piece, sites=sites, region=region, folder=folder, rules=RULES)
        silent |= {name for name, _ in silenced_in(subject)}
        if "all" in silent:
            return ()
        return tuple(sorted(_look(subject, silent), key=_by_place))


def mistakes(piece: Piece) -> tuple[Finding, ...]:
    """Return the findings about a piece itself, by place."""
    return tuple(found.finding for found in find(piece))


def _look(subject: Subject, silent: set[str]) -> Iterator[Found]:
    covered: set[int] = set()
    known: set[tuple[int, str, str]] = set()  # elements that browsers had to divide stand at one place
    for name in RULES:
        if name in silent:
            continue
        module = module_of(name)
        told: list[Mistake] = list(module.check(subject))
        for mistake in told:
            if mistake.span is not None and mistake.span.start in covered:
                continue
            if mistake.span is not None:
                sign = mistake.span.start, name, mistake.message
                if sign in known:
                    continue
                known.add(sign)
            line, column = (None, None) if mistake.span is None else subject.source.place(mistake.span.start)
            severity = mistake.severity or module.RULE.severity
            yield Found(Finding(name, "written", mistake.message, line, column, severity), mistake.mend)
        covered.update(span.start for mistake in told for span in mistake.covers)


def _by_place(found: Found) -> tuple[int, int]:
    return found.finding.line or 0, found.finding.column or 0
