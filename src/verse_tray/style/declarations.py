"""Declarations with their places (CSS Syntax Module Level 3, section 5.5.5)."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Any, NamedTuple

import tinycss2

from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

DEEPEST_BRACKETS = 60
"""Most brackets inside one another that are read: the parser recurses into them."""

_BRACKETS = lazy(r"[(\[{]|[)\]}]")
_LONGEST_NUMBER = 4_000
_LONG_NUMBER = lazy(rf"(?<![.\w#])(?<![\w-]-)[0-9]{{{_LONGEST_NUMBER},}}")


class Declaration(NamedTuple):
    """One declaration, or what stands where one should be."""

    name: str
    """Property, lower case (custom properties as typed); empty when the declaration is broken."""
    value: str
    """Value with comments left out and white space folded, without ``!important``."""
    important: bool
    """Whether it bears ``!important``."""
    span: Span
    """Place in the style text, offsets 0-based, end exclusive, the semicolon left out."""


@lru_cache(maxsize=4096)
def parse_declarations(text: str) -> tuple[Declaration, ...]:
    """Parse a style attribute's value. Broken declarations are returned with an empty name."""
    if too_nested(text):
        return (Declaration("", text, False, Span(0, len(text))),) if text.strip() else ()
    nodes = tinycss2.parse_blocks_contents(readable(text))
    return tuple(collect(nodes, text, LineStarts(text), 0, len(text)))


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
    depth = 0
    for sign in _BRACKETS.finditer(text):
        depth = depth + 1 if sign.group() in "([{" else max(0, depth - 1)
        if depth > DEEPEST_BRACKETS:
            return True
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


def collect(nodes: list[Any], text: str, lines: LineStarts, begin: int, end: int) -> list[Declaration]:
    """Return the declarations among the parser's ``nodes``; the block's contents stand from ``begin`` to ``end``."""
    found: list[Declaration] = []
    passed = begin
    wanted = [node for node in nodes if node.type not in ("whitespace", "comment")]
    limits = [lines.offset(node) if node.type != "error" else end for node in wanted[1:]]
    for node, limit in zip(wanted, [*limits, end], strict=False):
        start = stop = lines.offset(node)
        if node.type == "error":  # the parser names the place where it gave up
            skipped = _STRAY.match(text, passed, end)
            start = skipped.end() if skipped else passed
        stop = _end(text, stop, limit, rule=node.type in ("qualified-rule", "at-rule"))
        typed = text[start:stop].rstrip()
        passed = stop
        if not typed:
            continue
        span = Span(start, start + len(typed))
        if node.type == "declaration":
            name = node.name if node.name.startswith("--") else node.lower_name
            found.append(Declaration(name, _value(_COMMENT.sub(" ", typed)), node.important, span))
        else:
            found.append(Declaration("", typed, False, span))
    return found


_STRAY = lazy(r"(?:[\s;]|/\*.*?\*/)*", re.DOTALL)
_COMMENT = lazy(r"/\*.*?(?:\*/|\Z)", re.DOTALL)
_STOP = lazy(
    r"\"(?:\\.|[^\"\\\n])*+\"?|'(?:\\.|[^'\\\n])*+'?|/\*.*?(?:\*/|\Z)|url\(\s*+(?![\"'])[^)]*+\)?|\\.|[(\[{]|[)\]}]|;",
    re.DOTALL | re.IGNORECASE,
)


def _end(text: str, start: int, limit: int, *, rule: bool) -> int:
    """Return where what starts at ``start`` ends: at a semicolon, or for a rule behind its block."""
    awaited: list[str] = []  # closing brackets; one that nothing awaits is a sign like any other
    for sign in _STOP.finditer(text, start, limit):
        first = sign.group()[0]
        if first == ";" and not awaited:
            return sign.start()
        if first in _CLOSING:
            awaited.append(_CLOSING[first])
        elif awaited and first == awaited[-1]:
            awaited.pop()
            if rule and not awaited and first == "}":
                return sign.end()
    return limit


_CLOSING = {"(": ")", "[": "]", "{": "}"}


_IMPORTANT = lazy(r"!\s*important\s*$", re.IGNORECASE)


def _value(typed: str) -> str:
    value = typed.partition(":")[2]
    if "!" in value:
        value = _IMPORTANT.sub("", value)
    return fold(value)


def fold(value: str) -> str:
    """Fold white space."""
    return " ".join(value.split())
