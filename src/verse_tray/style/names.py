"""The classes and the identifiers that selectors name (Selectors Level 4, sections 6.6 and 6.7)."""

from __future__ import annotations

from functools import lru_cache

from msgspec import Struct

from verse_tray.model.spans import Span
from verse_tray.style.tokens import css_tokens


class SelectorName(Struct, frozen=True):
    """A class or an identifier in a selector list."""

    mark: str
    """``.`` for a class, ``#`` for an identifier."""
    name: str
    """The name as typed."""
    span: Span
    """Place of the name in the selector list, its mark left out."""


@lru_cache(maxsize=100_000)
def names_in(selectors: str) -> tuple[SelectorName, ...]:
    """Return the classes and identifiers of a selector list; strings, comments and attribute tests hold none."""
    found: list[SelectorName] = []
    if "." not in selectors and "#" not in selectors:
        return ()
    tests = 0
    dot = -1
    for token in css_tokens(selectors):
        typed = selectors[token.start : token.end]
        if token.kind == "opens":
            tests += typed == "["
        elif token.kind == "closes":
            tests -= typed == "]"
        elif token.kind == "other" and not tests:
            if typed == ".":
                dot = token.end
            elif typed[0] == "#" and len(typed) > 1:
                found.append(SelectorName("#", typed[1:], Span(token.start + 1, token.end)))
            elif dot == token.start and (typed[0] in "-_\\" or typed[0].isalpha() or typed[0] > "\x7f"):
                found.append(SelectorName(".", typed, Span(token.start, token.end)))
    return tuple(found)
