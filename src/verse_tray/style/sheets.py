"""The contents of a style element as flat rules: selectors, the conditions around them, declarations."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Any

import tinycss2
from msgspec import Struct

from verse_tray.model.spans import Span
from verse_tray.style.declarations import Declaration, contents_of, declarations_of, fold
from verse_tray.style.source import LineStarts, readable, too_nested
from verse_tray.style.tokens import css_tokens

_CONDITIONS = frozenset(("media", "supports", "layer", "container", "scope", "starting-style"))
_DEEPEST_RULES = 20


class StyleRule(Struct, frozen=True):
    """A style rule."""

    selectors: str
    """Its selector list, white space folded; that of a nested rule is joined to its parent's."""
    condition: str
    """The at-rules around it, outermost first, such as ``@media (max-width: 600px)``; empty when there are none."""
    declarations: tuple[Declaration, ...]
    """Its declarations; spans in the style text."""
    span: Span
    """Place of the selectors in the style text."""
    nested: bool = False
    """Whether it stands inside another style rule."""


class NamedRule(Struct, frozen=True):
    """An at-rule that defines something by itself: ``@keyframes``, ``@font-face``, ``@property``, ``@import``."""

    name: str
    """Keyword and prelude, such as ``@keyframes drift``."""
    span: Span
    """Place of the keyword in the style text."""


class Sheet(Struct):
    """A parsed style sheet."""

    rules: list[StyleRule] = []
    named: list[NamedRule] = []
    broken: list[Span] = []
    """Places that the parser threw away."""


@lru_cache(maxsize=256)
def parse_sheet(text: str) -> Sheet:
    """Parse a style sheet. The result is shared: treat it as read-only."""
    sheet = Sheet()
    if too_nested(text):
        sheet.broken.append(Span(0, len(text)))
        return sheet
    lines = LineStarts(text)
    nodes = tinycss2.parse_stylesheet(readable(text), skip_comments=True, skip_whitespace=True)
    _read(nodes, text, lines, sheet, "", "", 0)
    return sheet


def _read(nodes: list[Any], text: str, lines: LineStarts, sheet: Sheet, condition: str, outer: str, depth: int) -> None:
    for node in nodes:
        start = lines.offset(node)
        if node.type == "qualified-rule":
            _style_rule(node, text, lines, sheet, condition, outer, depth)
        elif node.type == "at-rule":
            prelude = fold(tinycss2.serialize(node.prelude))
            title = f"@{node.lower_at_keyword} {prelude}".rstrip()
            if node.lower_at_keyword in _CONDITIONS and node.content is not None and depth < _DEEPEST_RULES:
                inner = f"{condition} {title}".lstrip()
                if outer:
                    contents = contents_of(node.content)
                    _add(sheet, outer, inner, node, contents, text, lines, True)
                else:
                    contents = tinycss2.parse_rule_list(node.content, skip_comments=True, skip_whitespace=True)
                _read([n for n in contents if n.type != "declaration"], text, lines, sheet, inner, outer, depth + 1)
            else:
                sheet.named.append(NamedRule(title, Span(start, start + len(node.at_keyword) + 1)))
        elif node.type == "error":
            while start > 0 and text[start : start + 1].isspace():  # it may stand behind what it is about
                start -= 1
            sheet.broken.append(Span(start, start + 1))


def _style_rule(node: Any, text: str, lines: LineStarts, sheet: Sheet, condition: str, outer: str, depth: int) -> None:
    selectors = fold(tinycss2.serialize([n for n in node.prelude if n.type != "comment"]))
    if outer:
        selectors = _nest(outer, selectors)
    contents = contents_of(node.content)
    _add(sheet, selectors, condition, node, contents, text, lines, bool(outer))
    nested = [n for n in contents if n.type in ("qualified-rule", "at-rule")]
    if nested and depth < _DEEPEST_RULES:
        _read(nested, text, lines, sheet, condition, selectors, depth + 1)


def _add(
    sheet: Sheet,
    selectors: str,
    condition: str,
    node: Any,
    contents: list[Any],
    text: str,
    lines: LineStarts,
    nested: bool,
) -> None:
    declarations = []
    for declaration in declarations_of(node.content, contents, text, lines, _block_end(node, text, lines)):
        if declaration.name:
            declarations.append(declaration)
        elif not declaration.value.rstrip().endswith("}"):  # nested rules are read on their own
            sheet.broken.append(declaration.span)
    start = lines.offset(node)
    span = Span(start, start + len(text[start : _block_start(node, text, lines)].rstrip()))
    sheet.rules.append(StyleRule(selectors, condition, tuple(declarations), span, nested))


def _block_start(node: Any, text: str, lines: LineStarts) -> int:
    """Return where the bracket of a node's block stands."""
    if node.content:
        return lines.offset(node.content[0]) - 1
    last = node.prelude[-1] if node.prelude else node
    return max(text.find("{", lines.offset(last)), lines.offset(last))


def _block_end(node: Any, text: str, lines: LineStarts) -> int:
    """Return where the contents of a node's block end: behind its last token, comments and all."""
    if not node.content:
        return _block_start(node, text, lines) + 1
    last = node.content[-1]
    return min(lines.offset(last) + len(last.serialize()), len(text))


def _nest(outer: str, inner: str) -> str:
    """Join the selectors of a nested rule to its parent's (CSS Nesting Module Level 1)."""
    parent = f":is({outer})" if "," in outer else outer
    parts = [part.strip() for part in split_selectors(inner)]
    return ", ".join(part.replace("&", parent) if "&" in part else f"{parent} {part}" for part in parts)


def split_selectors(selectors: str) -> Iterator[str]:
    """Split a selector list at its top-level commas."""
    if "," not in selectors:
        yield selectors
        return
    depth = start = 0
    for token in css_tokens(selectors):
        if token.kind in ("opens", "function"):
            depth += 1
        elif token.kind == "closes":
            depth -= 1
        elif depth == 0 and selectors[token.start : token.end] == ",":
            yield selectors[start : token.start]
            start = token.end
    yield selectors[start:]
