"""Declarations with their places (CSS Syntax Module Level 3, section 5.5.5)."""

from __future__ import annotations

import re
from bisect import bisect_left
from functools import lru_cache
from typing import Any, NamedTuple

import tinycss2

from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.style.source import LineStarts, readable, too_nested
from verse_tray.style.tokens import css_tokens


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
    values = tinycss2.parse_component_value_list(readable(text))
    return tuple(declarations_of(values, contents_of(values), text, LineStarts(text), len(text)))


def contents_of(values: list[Any]) -> list[Any]:
    """Return what the parser makes of the values in a block: declarations, rules and errors."""
    return [node for node in tinycss2.parse_blocks_contents(values) if node.type not in ("whitespace", "comment")]


def declarations_of(
    values: list[Any], contents: list[Any], text: str, lines: LineStarts, end: int
) -> list[Declaration]:
    """Return the declarations of a block, those that are broken and what stands in their place with an empty name.

    Args:
        values: The component values of the block.
        contents: What the parser makes of them, see :func:`contents_of`.
        text: The style text.
        lines: Its lines.
        end: Where the block's contents end in it.
    """
    found: list[Declaration] = []
    starts = [lines.offset(value) for value in values]
    limits = [lines.offset(node) if node.type != "error" else end for node in contents[1:]]
    at = 0  # the first value behind what was read last
    for node, limit in zip(contents, [*limits, end], strict=False):
        if node.type == "error":  # the parser names the place where it gave up, not where that began
            while at < len(values) and (values[at].type in ("whitespace", "comment") or values[at] == ";"):
                at += 1
            start = min(starts[at] if at < len(values) else end, limit)
            at = max(at, bisect_left(starts, lines.offset(node)))
        else:
            start = lines.offset(node)
            at = bisect_left(starts, start)
        stop = limit
        while at < len(values) and starts[at] < limit:
            if values[at] == ";":
                stop = starts[at]
                break
            at += 1
            if node.type in ("qualified-rule", "at-rule") and values[at - 1].type == "{} block":
                stop = starts[at] if at < len(values) else end
                break
        typed = text[start:stop].rstrip()
        if not typed:
            continue
        span = Span(start, start + len(typed))
        if node.type == "declaration":
            name = node.name if node.name.startswith("--") else node.lower_name
            found.append(Declaration(name, _value(_without_comments(typed)), node.important, span))
        else:
            found.append(Declaration("", typed, False, span))
    return found


def _without_comments(typed: str) -> str:
    if "/*" not in typed:
        return typed
    return "".join(" " if token.kind == "comment" else typed[token.start : token.end] for token in css_tokens(typed))


_IMPORTANT = lazy(r"!\s*important\s*$", re.IGNORECASE)


def _value(typed: str) -> str:
    value = typed.partition(":")[2]
    if "!" in value:
        value = _IMPORTANT.sub("", value)
    return fold(value)


_STRING_OR_WHITE = lazy(r"""("(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*')|\s+""", re.DOTALL)


def fold(value: str) -> str:
    """Fold white space, but within strings."""
    if '"' not in value and "'" not in value:
        return " ".join(value.split())
    return _STRING_OR_WHITE.sub(lambda match: match[1] or " ", value.strip())
