"""Comments in a piece that silence rules: ``<!-- verse-tray silence: links/in-link markup/mark-left -->``."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

_COMMENT = lazy(r"<!--\s*verse-tray\s+silence:([^<>]*?)--!?>")


def silenced_in(subject: Subject) -> Iterator[tuple[str, Span | None]]:
    """Yield the names in the comments that silence rules, each with its place; ``all`` is every rule."""
    for comment in subject.comments:
        if (match := _COMMENT.match(comment.markup)) is None:
            continue
        span = subject.span(comment)
        for name in re.finditer(r"[^\s,]+", match[1]):
            at = match.start(1) + name.start()
            exact = span is not None and subject.typed(span) == comment.markup
            yield name[0], Span(span.start + at, span.start + at + len(name[0])) if exact and span else span
