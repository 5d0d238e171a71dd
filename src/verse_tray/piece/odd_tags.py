"""Attributes of start tags as typed, looked at for quotes that went wrong."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

CURLY = "“”„‟″‘’‚‛′"
"""Quotes that word processors make of straight ones."""


class OddTag(Struct, frozen=True):
    """A start tag with a quote where none should be."""

    token: Token
    before: AttributeSpan | None
    """The last attribute with a value in front of the odd place."""
    at: Span
    """The odd attribute's name, or the odd value."""


def is_templated(tag: str) -> bool:
    """Tell whether a tag holds commands or fields of a template language: what it will be is known only later."""
    return ("{" in tag and ("{%" in tag or "{{" in tag or "${" in tag)) or "<?" in tag or "<%" in tag


_PLAIN = lazy(
    r"<[^\s/>\"'<=]+(?:[\t\n\f\r ]++[^\s/>\"'<=]++(?:=(?:\"[^\"]*+\"|'[^']*+'|[^\s\"'<>=`]++))?+)*+[\t\n\f\r ]*+/?>"
)
"""Most tags: names without quotes, values in quotes or without any."""


def odd_tags(subject: Subject) -> Iterator[OddTag]:
    """Yield the start tags that have a quote in the name of an attribute; the first such place of each."""
    text = subject.source.text
    for token in subject.tokens:
        if token.kind is not Kind.START or not ('"' in (tag := text[token.start : token.end]) or "'" in tag):
            continue
        if _PLAIN.fullmatch(tag) or is_templated(tag):
            continue
        before = None
        for attribute in attribute_spans(text, Span(token.start, token.end)).values():
            typed = text[attribute.name.start : attribute.name.end]
            if '"' in typed or "'" in typed or "<" in typed:
                yield OddTag(token, before, attribute.name)
                break
            value = attribute.value
            if value is not None and text[value.start - 1] not in "\"'" and '"' in text[value.start : value.end]:
                yield OddTag(token, before, value)
                break
            if attribute.value is not None:
                before = attribute


def swallowed(subject: Subject, odd: OddTag) -> bool:
    """Tell whether the value in front of the odd place holds tags: its closing quote is missing."""
    if odd.before is None or odd.before.value is None:
        return "<" in subject.typed(odd.at)
    value = subject.typed(odd.before.value)
    return "<" in value or ">" in value
