"""The tokens of a style text, in order and with their places, as the CSS parser tells them (CSS Syntax Level 3)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any, NamedTuple

import tinycss2

from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.style.source import LineStarts, readable, too_nested

_NAMED = lazy(r"(?:\\.|[^(\\])*\(", re.DOTALL)
_CLOSING = {"() block": ")", "[] block": "]", "{} block": "}", "function": ")"}
_WHOLE = {"comment": "*/", "url": ")"}
_ERRORS = {"eof-in-string": "string", "bad-string": "string", "eof-in-url": "url", "bad-url": "url"}


class CssToken(NamedTuple):
    """One token. Blocks are taken apart: what opens, what is inside, what closes."""

    kind: str
    """``comment``, ``whitespace``, ``string``, ``url`` (brackets and all), ``function`` (name and bracket), ``opens``,
    ``closes``, or ``other``."""
    start: int
    """Offset of its first sign, 0-based."""
    end: int
    """Offset behind its last sign."""


def css_tokens(text: str) -> list[CssToken]:
    """Return the tokens of a style text; together they cover it whole. Of one nested beyond reason, a single one."""
    if too_nested(text):
        return [CssToken("other", 0, len(text))] if text else []
    nodes = tinycss2.parse_component_value_list(readable(text))
    return list(_flat(nodes, text, LineStarts(text), len(text)))


def _flat(nodes: list[Any], text: str, lines: LineStarts, end: int) -> Iterator[CssToken]:
    starts = [lines.offset(node) for node in nodes]
    for node, start, stop in zip(nodes, starts, [*starts[1:], end], strict=False):
        if start == stop:  # the parser tells of a string without an end twice
            continue
        kind = _ERRORS.get(node.kind, "other") if node.type == "error" else node.type
        if kind not in _CLOSING:
            yield CssToken(kind if kind in ("comment", "whitespace", "string", "url") else "other", start, stop)
            continue
        inner = start + 1
        if kind == "function":
            named = _NAMED.match(text, start)
            inner = named.end() if named else stop
        contents = node.arguments if kind == "function" else node.content
        closed = _is_closed(contents, text, lines, stop, _CLOSING[kind])
        yield CssToken("function" if kind == "function" else "opens", start, inner)
        yield from _flat(contents, text, lines, stop - closed)
        if closed:
            yield CssToken("closes", stop - 1, stop)


def _is_closed(contents: list[Any], text: str, lines: LineStarts, stop: int, closing: str) -> bool:
    """Tell whether a block that ends at ``stop`` has its closing sign: at the end of the text it may lack it."""
    if text[stop - 1 : stop] != closing:
        return False
    if stop < len(text) or not contents:
        return True
    return _may_end(contents[-1], text, lines, stop - 1)


def _may_end(node: Any, text: str, lines: LineStarts, stop: int) -> bool:
    """Tell whether a node ends at ``stop``: one that lacks its own end would go on."""
    start = lines.offset(node)
    if start >= stop:
        return False
    kind = _ERRORS.get(node.kind, "other") if node.type == "error" else node.type
    if kind == "string":
        return text[stop - 1] == text[start] and stop - 1 > start
    if kind in _CLOSING:
        contents = node.arguments if kind == "function" else node.content
        closed = text[stop - 1] == _CLOSING[kind]
        return closed and (not contents or _may_end(contents[-1], text, lines, stop - 1))
    ending = _WHOLE.get(kind)
    return ending is None or text[start:stop].endswith(ending)


class StyleAddress(NamedTuple):
    """An address in a style text."""

    address: str
    """The address as typed, without its quotes."""
    span: Span
    """Its place."""
    whole: Span
    """Place of the ``url()`` around it."""

    @property
    def read(self) -> str:
        """The address as it is read: what is typed with a backslash stands for itself."""
        if "\\" not in self.address:
            return self.address
        tokens = (tinycss2.parse_one_component_value(f"{quote}{self.address}{quote}") for quote in "\"'")
        return next((str(token.value) for token in tokens if token.type == "string"), self.address)


def style_addresses(text: str) -> Iterator[StyleAddress]:
    """Yield the addresses in ``url()`` of a style text."""
    if "(" not in text:
        return
    tokens = css_tokens(text)
    for number, token in enumerate(tokens):
        typed = text[token.start : token.end]
        if token.kind == "url":
            inner = typed.partition("(")[2].removesuffix(")")
            at = token.start + typed.index("(") + 1 + len(inner) - len(inner.lstrip())
            yield StyleAddress(inner.strip(), Span(at, at + len(inner.strip())), Span(token.start, token.end))
        elif token.kind == "function" and typed.lower() == "url(":
            behind = [each for each in tokens[number + 1 : number + 5] if each.kind != "whitespace"]
            if behind and behind[0].kind == "string":
                string, last = behind[0], behind[1] if len(behind) > 1 and behind[1].kind == "closes" else behind[0]
                stop = string.end - (text[string.end - 1] == text[string.start] and string.end - 1 > string.start)
                inside = Span(string.start + 1, stop)
                yield StyleAddress(text[inside.start : stop], inside, Span(token.start, last.end))
