"""Values of declarations as words, functions and strings kept whole."""

from __future__ import annotations

import re

from verse_tray.model.patterns import lazy

_WORD = lazy(
    r"(?:[\w#%.+-]*\((?:[^()\"']|\"[^\"]*\"|'[^']*'|\((?:[^()]|\([^()]*\))*\))*\)|\"[^\"]*\"|'[^']*'|[^\s,/()\"'])+"
)
_STRINGS = lazy(
    r"\"(?:\\.|[^\"\\\n])*\"?|'(?:\\.|[^'\\\n])*'?|/\*.*?(?:\*/|\Z)|url\(\s*(?![\"'])[^)]*\)?", re.DOTALL | re.I
)


_LONGEST = 4_000  # signs in a value that is looked into; a longer one holds a file, or means no good


def words(value: str) -> list[str]:
    """Return the words of a value; a function with its arguments is one."""
    return _WORD.findall(value) if len(value) <= _LONGEST else []


def without_strings(text: str) -> str:
    """Return a style text with strings, comments and addresses blanked, every other sign at its place."""
    return _STRINGS.sub(lambda match: re.sub(r"[^\n\r]", " ", match[0]), text)


def pixels(value: str) -> float | None:
    """Return a length in CSS pixels; None for what is no fixed length."""
    match = re.fullmatch(r"\s*\+?(\d*\.?\d+)(px|pt|in|cm|mm|pc)\s*", value, re.IGNORECASE)
    if match is None:
        return None
    return (
        float(match[1])
        * {"px": 1, "pt": 96 / 72, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "pc": 16}[match[2].lower()]
    )
