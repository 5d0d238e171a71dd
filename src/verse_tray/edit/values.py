"""The values of a piece that are worth changing, each with a short name and the places where it stands."""

from __future__ import annotations

import re
from collections.abc import Iterator
from enum import StrEnum
from typing import NamedTuple

from msgspec import Struct

from verse_tray.markup.attributes import AttributeSpan
from verse_tray.markup.serialise import escape_attribute, escape_for_quote
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Text
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context, Quoted
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Declared, Subject
from verse_tray.style.colours import COLOUR, parse_colour
from verse_tray.style.values import without_strings


class ValueKind(StrEnum):
    """What a value is."""

    COLOUR = "colour"
    SIZE = "size"
    DURATION = "duration"
    PROPERTY = "property"
    """A custom property (``--gap``)."""
    TEXT = "text"
    LINK = "link"
    PICTURE = "picture"


class Place(NamedTuple):
    """One place of a value."""

    span: Span
    """Its place in the file."""
    quoted: Quoted
    """What it stands in."""
    declared: str | None = None
    """The property, or the attribute, whose value it is, or is a part of; None for text."""


class Value(Struct, frozen=True):
    """A value that can be changed."""

    name: str
    """Its short name."""
    kind: ValueKind
    """What it is."""
    value: str
    """What it is now, references resolved."""
    places: tuple[Place, ...]
    """Where it stands; one or more."""


_SIZES = lazy(
    r"(?:min-|max-)?(?:width|height)|(?:margin|padding|inset|gap|border-radius|border-spacing|scroll-margin)(?:-\w+)*"
    r"|(?:row|column)-gap|font-size|line-height|letter-spacing|text-indent|top|right|bottom|left|flex-basis|columns"
)
_WITH_LENGTH = lazy(r"border(?:-(?:top|right|bottom|left))?(?:-width)?|outline(?:-width)?|grid-template-columns|font")
_LENGTH = lazy(r"(?<![\w#.-])-?\d*\.?\d+(?:px|em|rem|%|pt|vw|vh|ch|fr|cm|mm|ex|in|pc)(?![\w%])")
_TIME = lazy(r"(?<![\w#.-])\d*\.?\d+m?s(?!\w)")
_TIMED = lazy(r"(?:transition|animation)(?:-(?:duration|delay))?")
_ATTRIBUTES = {
    "href": ValueKind.LINK,
    "action": ValueKind.LINK,
    "src": ValueKind.PICTURE,
    "poster": ValueKind.PICTURE,
    "width": ValueKind.SIZE,
    "height": ValueKind.SIZE,
    "bgcolor": ValueKind.COLOUR,
    "alt": ValueKind.TEXT,
    "title": ValueKind.TEXT,
    "placeholder": ValueKind.TEXT,
    "aria-label": ValueKind.TEXT,
}
_LAST = lazy(r"[.#]?(-?[A-Za-z_][\w-]*)|(:[\w-]+)")


def find_values(piece: Piece) -> list[Value]:
    """Return the values of a piece, by place; the same value under the same name stands once, with all its places."""
    subject = Subject(piece)
    rows = sorted(_rows(subject), key=lambda row: row[3].span)
    grouped: dict[tuple[str, ValueKind, str], list[Place]] = {}
    for base, kind, value, place in rows:
        grouped.setdefault((base, kind, value), []).append(place)
    taken: dict[str, int] = {}
    found = []
    for (base, kind, value), places in grouped.items():
        taken[base] = taken.get(base, 0) + 1
        name = base if taken[base] == 1 else f"{base}-{taken[base]}"
        found.append(Value(name, kind, value, tuple(places)))
    return found


_Row = tuple[str, ValueKind, str, Place]


def _rows(subject: Subject) -> Iterator[_Row]:
    for declared in subject.declared:
        yield from _in_declaration(subject, declared)
    for element in subject.elements:
        for name, kind in _ATTRIBUTES.items():
            if element.attributes.get(name, "").strip():
                yield from _in_attribute(subject, element, name, kind)
    for text in subject.texts:
        span = subject.own_span(text) if text.data.strip() else None
        if span is not None:
            yield _text(subject, text, span)


def _text(subject: Subject, text: Text, span: Span) -> _Row:
    typed = subject.typed(span)
    lead = len(typed) - len(typed.lstrip())
    own = Span(span.start + lead, span.start + len(typed.rstrip()))
    parent = subject.parents.get(text.key)
    name = "text" if parent is None else f"{_called(parent)}-text"
    return name, ValueKind.TEXT, " ".join(text.data.split()), Place(own, Quoted(Context.TEXT, None))


def _in_attribute(subject: Subject, element: Element, name: str, kind: ValueKind) -> Iterator[_Row]:
    found = subject.attribute(element, name)
    if found is None or found.value is None:
        return
    if kind is ValueKind.PICTURE and element.name in ("script", "iframe"):
        kind = ValueKind.LINK
    short = {"href": "link", "src": "picture" if kind is ValueKind.PICTURE else "link"}.get(name, name)
    place = Place(found.value, Quoted(Context.ATTRIBUTE, quote_of(subject, found)), name)
    yield f"{_called(element)}-{short}", kind, element.attributes[name], place


def quote_of(subject: Subject, attribute: AttributeSpan) -> str:
    """Return the quote around an attribute's value; empty for none."""
    sign = subject.source.text[attribute.whole.end - 1]
    return sign if attribute.value is not None and attribute.value.end < attribute.whole.end and sign in "\"'" else ""


def attribute_splice(subject: Subject, element: Element, name: str, value: str) -> Iterator[Splice]:
    """Yield what gives an element an attribute's value, in the quotes that it has; nothing where it has no tag."""
    found = subject.attribute(element, name)
    if found is None:
        span = subject.name_span(element)
        if span is not None:
            yield Splice(Span(span.end, span.end), f' {name}="{escape_attribute(value)}"')
    elif found.value is None:
        yield Splice(found.whole, f'{subject.typed(found.name)}="{escape_attribute(value)}"')
    elif quote := quote_of(subject, found):
        yield Splice(found.value, escape_for_quote(value, quote))
    else:
        yield Splice(found.value, f'"{escape_attribute(value)}"')


def _called(element: Element) -> str:
    names = element.attributes.get("class", "").split()
    return element.attributes.get("id") or (names[0] if names else element.name)


def _context(declared: Declared) -> str:
    if declared.element is not None:
        return _called(declared.element)
    assert declared.rule is not None
    first = declared.rule.selectors.partition(",")[0]
    parts = [match[1] or match[2][1:] for match in _LAST.finditer(re.sub(r"\[[^\]]*\]", "", first))]
    name = "-".join(parts[-2:]) or "all"
    return f"{name}-narrow" if "max-width" in declared.rule.condition else name


def _in_declaration(subject: Subject, declared: Declared) -> Iterator[_Row]:
    name = declared.declaration.name
    if not name or declared.span is None:
        return
    start = declared.typed.index(":") + 1
    bare = without_strings(declared.typed)
    value = declared.declaration.value
    whole = Span(len(declared.typed) - len(declared.typed[start:].lstrip()), len(declared.typed))
    if declared.declaration.important:
        whole = Span(
            whole.start,
            whole.start + len(re.sub(r"\s*!\s*important\s*$", "", declared.typed[whole.start :], flags=re.I)),
        )
    context = _context(declared)
    if name.startswith("--"):
        yield from _one(subject, declared, name, ValueKind.PROPERTY, whole)
        return
    for match in COLOUR.finditer(bare, start):
        if parse_colour(match[0]) is not None:
            yield from _one(subject, declared, f"{context}-{name}", ValueKind.COLOUR, Span(*match.span()))
    if _SIZES.fullmatch(name) and value:
        yield from _one(subject, declared, f"{context}-{name}", ValueKind.SIZE, whole)
    elif _WITH_LENGTH.fullmatch(name):
        for match in _LENGTH.finditer(bare, start):
            yield from _one(subject, declared, f"{context}-{name}-size", ValueKind.SIZE, Span(*match.span()))
    elif _TIMED.fullmatch(name):
        for match in _TIME.finditer(bare, start):
            yield from _one(subject, declared, f"{context}-{name}-time", ValueKind.DURATION, Span(*match.span()))


def _one(subject: Subject, declared: Declared, name: str, kind: ValueKind, part: Span) -> Iterator[_Row]:
    value = declared.typed[part.start : part.end]
    if declared.element is None:
        assert declared.span is not None
        span = Span(declared.span.start + part.start, declared.span.start + part.end)
        place = Place(span, Quoted(Context.STYLE, None), declared.declaration.name)
    else:
        offset = declared.declaration.span.start
        found = subject.attribute(declared.element, "style")
        placed = subject.value_span(declared.element, "style", Span(offset + part.start, offset + part.end))
        if found is None or placed is None:
            return
        place = Place(placed, Quoted(Context.STYLE, quote_of(subject, found)), declared.declaration.name)
    yield name, kind, value, place
