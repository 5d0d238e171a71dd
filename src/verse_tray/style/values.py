"""Values of declarations as words, functions and strings kept whole."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.model.patterns import lazy
from verse_tray.style.tokens import css_tokens

_HOLDS_SOME = lazy(r"[\"']|/\*|url\(", re.IGNORECASE)
_PLAIN = lazy(r"[A-Za-z0-9_#.% -]*")  # words and numbers side by side, as most values are
_SIGN = lazy(r"[^\n\r]")
_SEPARATORS = (",", "/")
_DECIMAL, _APART = lazy(r"\d,\d"), lazy(r"\d\s+%")
_LONGEST = 4_000  # signs in a value that is looked into; a longer one holds a file, or means no good


def words(value: str) -> list[str]:
    """Return the words of a value; a function with its arguments is one."""
    if len(value) > _LONGEST:
        return []
    if _PLAIN.fullmatch(value):
        return value.split()
    found: list[str] = []
    start = -1
    for kind, at, end, outside in _tokens(value):
        between = outside and (kind in ("whitespace", "comment") or value[at:end] in _SEPARATORS)
        if between and start >= 0:
            found.append(value[start:at])
            start = -1
        elif not between and start < 0:
            start = at
    return [*found, value[start:]] if start >= 0 else found


def has_commas(value: str) -> bool:
    """Tell whether commas stand between the words of a value."""
    return "," in value and any(outside and value[at:end] == "," for _, at, end, outside in _tokens(value))


def has_decimal_comma(value: str) -> bool:
    """Tell whether a number has a comma for its decimal point, as in ``1,5em``."""
    return "(" not in value and _DECIMAL.search(value) is not None  # functions have commas of their own


def has_percent_apart(value: str) -> bool:
    """Tell whether a blank stands between a number and its percent sign."""
    return "%" in value and _APART.search(value) is not None


def _tokens(value: str) -> Iterator[tuple[str, int, int, bool]]:
    """Yield kind, start and end of each token, and whether it stands outside of all brackets."""
    depth = 0
    for kind, at, end in css_tokens(value):
        depth += kind in ("function", "opens")
        yield kind, at, end, not depth
        depth -= kind == "closes"


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
