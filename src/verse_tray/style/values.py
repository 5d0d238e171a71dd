"""Values of declarations as words, functions and strings kept whole."""

from __future__ import annotations

import re

from verse_tray.model.patterns import lazy
from verse_tray.style.tokens import css_tokens

_HOLDS_SOME = lazy(r"[\"']|/\*|url\(", re.IGNORECASE)
_PLAIN = lazy(r"[A-Za-z0-9_#.% -]*")  # words and numbers side by side, as most values are
_SIGN = lazy(r"[^\n\r]")
_SEPARATORS = (",", "/")
_LONGEST = 4_000  # signs in a value that is looked into; a longer one holds a file, or means no good


def words(value: str) -> list[str]:
    """Return the words of a value; a function with its arguments is one."""
    if len(value) > _LONGEST:
        return []
    if _PLAIN.fullmatch(value):
        return value.split()
    found: list[str] = []
    depth, start = 0, -1
    for kind, at, end in css_tokens(value):
        depth += kind in ("function", "opens")
        between = not depth and (kind in ("whitespace", "comment") or value[at:end] in _SEPARATORS)
        if between and start >= 0:
            found.append(value[start:at])
            start = -1
        elif not between and start < 0:
            start = at
        depth -= kind == "closes"
    return [*found, value[start:]] if start >= 0 else found


def separators(value: str) -> str:
    """Return the commas and strokes between the words of a value, in their order."""
    found: list[str] = []
    depth = 0
    for kind, at, end in css_tokens(value):
        depth += (kind in ("function", "opens")) - (kind == "closes")
        if not depth and value[at:end] in _SEPARATORS:
            found.append(value[at:end])
    return "".join(found)


def without_strings(text: str) -> str:
    """Return a style text with strings, comments and addresses blanked, every other sign at its place."""
    if not _HOLDS_SOME.search(text):
        return text
    pieces = [
        _SIGN.sub(" ", text[at:end]) if kind in ("string", "comment", "url") else text[at:end]
        for kind, at, end in css_tokens(text)
    ]
    return "".join(pieces)


def pixels(value: str) -> float | None:
    """Return a length in CSS pixels; None for what is no fixed length."""
    match = re.fullmatch(r"\s*\+?(\d*\.?\d+)(px|pt|in|cm|mm|pc)\s*", value, re.IGNORECASE)
    if match is None:
        return None
    return (
        float(match[1])
        * {"px": 1, "pt": 96 / 72, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "pc": 16}[match[2].lower()]
    )
