"""The contents of a style element as flat rules: selectors, the conditions around them, declarations."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from functools import lru_cache
from typing import Any
from zlib import crc32

import tinycss2
from msgspec import Struct, structs

from verse_tray.model.spans import Span
from verse_tray.style.declarations import Declaration, contents_of, declarations_of, fold
from verse_tray.style.source import LineStarts, readable, too_nested
from verse_tray.style.tokens import css_tokens

_CONDITIONS = frozenset(("media", "supports", "layer", "container", "scope", "starting-style"))
_DEEPEST_RULES = 20
_LONGEST_NESTED = 2_000  # signs of a selector with its parents: each level may name them more than once


class StyleRule(Struct, frozen=True):
    """A style rule, or a part of one: declarations behind a nested rule are a rule of their own."""

    selectors: str
    """Its selector list, white space folded; that of a nested rule is joined to its parent's."""
    around: tuple[tuple[str, str], ...]
    """The at-rules around it, outermost first: keyword and prelude, as in ``("media", "(max-width: 600px)")``."""
    declarations: tuple[Declaration, ...]
    """Its declarations; spans in the style text."""
    span: Span
    """Place of the selectors in the style text."""
    nested: bool = False
    """Whether it stands inside another style rule."""
    layer: tuple[str, ...] = ()
    """Names of the cascade layers that it is in, outermost first; those without a name have one of their own."""

    @property
    def condition(self) -> str:
        """The at-rules around it as typed, white space folded; empty when there are none."""
        return " ".join(f"@{keyword} {prelude}".rstrip() for keyword, prelude in self.around)


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
    layers: list[tuple[str, ...]] = []
    """Its cascade layers in the order in which they are first named."""
    steps: list[StyleRule] = []
    """The steps of its animations (CSS Animations Level 1, 3): ``from``, ``40%`` in place of selectors."""


@lru_cache(maxsize=256)
def parse_sheet(text: str) -> Sheet:
    """Parse a style sheet. The result is shared: treat it as read-only."""
    reader = _Reader(text)
    if too_nested(text):
        reader.sheet.broken.append(Span(0, len(text)))
    else:
        reader.read(tinycss2.parse_stylesheet(readable(text), skip_comments=True, skip_whitespace=True), _Place())
    return reader.sheet


@lru_cache(maxsize=64)
def sheet_of(text: str, kind: str, media: str) -> Sheet | None:
    """Return the sheet of a ``style`` element; None for one that is no CSS (HTML standard, 4.2.6).

    Args:
        text: Its text.
        kind: Its ``type``; empty when it has none.
        media: Its ``media``; empty when it has none.
    """
    if kind.lower() not in ("", "text/css"):
        return None
    sheet = parse_sheet(text)
    if media.strip().lower() in ("", "all"):
        return sheet
    around = ("media", fold(media))
    rules = [structs.replace(rule, around=(around, *rule.around)) for rule in sheet.rules]
    return Sheet(rules, sheet.named, sheet.broken, sheet.layers, sheet.steps)


class _Place(Struct, frozen=True):
    """Where in a sheet the reader is."""

    around: tuple[tuple[str, str], ...] = ()
    layer: tuple[str, ...] = ()
    outer: str = ""
    scope: str = ""
    depth: int = 0


class _Reader:
    """Reads the rules of one sheet, in their order."""

    def __init__(self, text: str) -> None:
        self.sheet = Sheet()
        self._text = text
        self._lines = LineStarts(text)
        self._layers: set[tuple[str, ...]] = set()

    def read(self, nodes: list[Any], place: _Place) -> None:
        for node in nodes:
            if node.type == "qualified-rule":
                selectors = fold(tinycss2.serialize([n for n in node.prelude if n.type != "comment"]))
                nested = bool(place.outer)
                joined = nest(place.outer, selectors) if nested else _scoped(selectors, place.scope)
                self._block(node, structs.replace(place, outer=joined), nested)
            elif node.type == "at-rule":
                self._at_rule(node, place)
            elif node.type == "error":
                start = self._lines.offset(node)
                while start > 0 and self._text[start : start + 1].isspace():  # it may stand behind what it is about
                    start -= 1
                self.sheet.broken.append(Span(start, start + 1))

    def _at_rule(self, node: Any, place: _Place) -> None:
        keyword, prelude = node.lower_at_keyword, fold(tinycss2.serialize(node.prelude))
        start = self._lines.offset(node)
        if keyword == "layer" and node.content is None:
            for name in prelude.split(","):
                self._layer((*place.layer, *name.strip().split(".")))
            return
        if keyword not in _CONDITIONS or node.content is None or len(place.around) > _DEEPEST_RULES:
            span = Span(start, start + len(node.at_keyword) + 1)
            self.sheet.named.append(NamedRule(f"@{keyword} {prelude}".rstrip(), span))
            if keyword.endswith("keyframes") and node.content:
                self._steps(tinycss2.parse_rule_list(node.content, skip_comments=True, skip_whitespace=True))
            return
        inner = structs.replace(place, around=(*place.around, (keyword, prelude)))
        if (
            keyword == "scope"
            and not place.outer
            and prelude[:1] == "("
            and prelude[-1:] == ")"
            and " to (" not in prelude
        ):
            inner = structs.replace(inner, scope=prelude[1:-1])
        if keyword == "layer":
            names = (
                prelude.split(".") if prelude else [f" {crc32(self._text.encode('utf-8', 'replace'))}:{start}"]
            )  # no other layer's name
            inner = structs.replace(inner, layer=self._layer((*place.layer, *names)))
        if place.outer:
            self._block(node, inner, nested=True)
        else:
            self.read(tinycss2.parse_rule_list(node.content, skip_comments=True, skip_whitespace=True), inner)

    def _steps(self, nodes: list[Any]) -> None:
        for node in nodes:
            if node.type != "qualified-rule":
                continue
            contents, end = contents_of(node.content), _block_end(node, self._text, self._lines)
            found = declarations_of(node.content, contents, self._text, self._lines, end)
            start, stop = self._lines.offset(node), _block_start(node, self._text, self._lines)
            typed = self._text[start:stop].rstrip()
            named = tuple(each for each in found if each.name)
            self.sheet.steps.append(StyleRule(fold(typed), (), named, Span(start, start + len(typed))))

    def _layer(self, path: tuple[str, ...]) -> tuple[str, ...]:
        for depth in range(1, len(path) + 1):
            if path[:depth] not in self._layers:
                self._layers.add(path[:depth])
                self.sheet.layers.append(path[:depth])
        return path

    def _block(self, node: Any, place: _Place, nested: bool) -> None:
        """Read what stands in the brackets of a rule: declarations, and rules between them."""
        contents = contents_of(node.content)
        inner = [each for each in contents if each.type in ("qualified-rule", "at-rule")]
        starts = [self._lines.offset(each) for each in inner]
        runs: list[list[Declaration]] = [[] for _ in range(len(inner) + 1)]
        end = _block_end(node, self._text, self._lines)
        for declaration in declarations_of(node.content, contents, self._text, self._lines, end):
            if declaration.name:
                runs[bisect_left(starts, declaration.span.start)].append(declaration)
            elif not declaration.value.rstrip().endswith("}"):  # nested rules are read on their own
                self.sheet.broken.append(declaration.span)
        start = self._lines.offset(node)
        stop = _block_start(node, self._text, self._lines)
        span = Span(start, start + len(self._text[start:stop].rstrip()))
        self._add(place, runs[0], span, nested)
        if place.depth >= _DEEPEST_RULES or len(place.outer) > _LONGEST_NESTED:
            return
        for each, run in zip(inner, runs[1:], strict=True):
            self.read([each], structs.replace(place, depth=place.depth + 1))
            if run:
                self._add(place, run, span, nested=True)

    def _add(self, place: _Place, declarations: list[Declaration], span: Span, nested: bool) -> None:
        rule = StyleRule(place.outer, place.around, tuple(declarations), span, nested, place.layer)
        self.sheet.rules.append(rule)


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


def _scoped(selectors: str, roots: str) -> str:
    """Write the roots of ``@scope`` into the selectors in it (CSS Cascading Level 6, section 2.5).

    What is nested in them follows: it is not bound to the scope by itself.
    """
    if not roots:
        return selectors
    root = f":where({roots})"
    parts = map(str.strip, split_selectors(selectors))
    return ", ".join(
        part.replace(":scope", root).replace("&", root) if ":scope" in part or "&" in part else f"{root} {part}"
        for part in parts
    )


def nest(outer: str, inner: str) -> str:
    """Join the selectors of a nested rule to its parent's (CSS Nesting Module Level 1)."""
    listed = f":is({outer})"
    found = []
    for part in map(str.strip, split_selectors(inner)):
        places = [t.start for t in css_tokens(part) if t.kind == "other" and part[t.start : t.end] == "&"]
        if not places:
            parent = listed if "," in outer else outer
            found.append(f"{parent} {part}")
        elif places == [0] and "," not in outer:
            found.append(outer + part[1:])
        else:
            pieces = [part[at + 1 : end] for at, end in zip(places, [*places[1:], len(part)], strict=True)]
            found.append(part[: places[0]] + listed + listed.join(pieces))
    return ", ".join(found)


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
