"""Style texts as the CSS parser is given them, and where in them its nodes stand."""

from __future__ import annotations

import re
from typing import Any

from verse_tray.model.patterns import lazy

DEEPEST_BRACKETS = 60
"""Most brackets inside one another that are read: the parser recurses into them."""

_BRACKETS = lazy(
    r"""(?<![\w\-\u0080-\U0010ffff])url\((?=\s*[^"'\s])(?:[^)\\]|\\.)*+\)?"""
    r"""|"(?:[^"\\\n\r\f]|\\.)*+"?|'(?:[^'\\\n\r\f]|\\.)*+'?|/\*.*?(?:\*/|\Z)|\\.[\w\-\u0080-\U0010ffff]*|[()\[\]{}]""",
    re.DOTALL | re.IGNORECASE,
)
_CLOSING = {"(": ")", "[": "]", "{": "}"}
_LONGEST_NUMBER = 4_000
_LONG_NUMBER = lazy(rf"(?<![.\w#])(?<![\w-]-)[0-9]{{{_LONGEST_NUMBER},}}")


def readable(text: str) -> str:
    """Return a style text, every sign at its place, without whole numbers of more digits than Python converts.

    Such a number ends in ``.0`` then; larger than any that browsers tell apart it is all the same.
    """
    if len(text) < _LONGEST_NUMBER:
        return text
    return _LONG_NUMBER.sub(lambda number: f"{number[0][:-2]}.0", text)


def too_nested(text: str) -> bool:
    """Tell whether brackets are nested deeper than is read."""
    if text.count("(") + text.count("[") + text.count("{") <= DEEPEST_BRACKETS:
        return False
    awaited: list[str] = []  # a bracket of another sort closes nothing
    for part in _BRACKETS.finditer(text):
        sign = part[0]
        if sign in _CLOSING:
            awaited.append(_CLOSING[sign])
            if len(awaited) > DEEPEST_BRACKETS:
                return True
        elif awaited and sign == awaited[-1]:
            awaited.pop()
    return False


class LineStarts:
    """Offsets of the lines of a style text, as the CSS parser counts them (LF, CR, CRLF and FF end a line)."""

    __slots__ = ("_starts",)

    def __init__(self, text: str) -> None:
        self._starts = [0, *(match.end() for match in re.finditer(r"\r\n|[\n\r\f]", text))]

    def offset(self, node: Any) -> int:
        """Return the offset of a parser's node, whose line and column are 1-based."""
        line, column = int(node.source_line), int(node.source_column)
        return self._starts[line - 1] + column - 1
