"""Marks in a piece, each with what it stands in: that decides how a value has to be written there."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES
from verse_tray.markup.attributes import AttributeSpan, attribute_spans
from verse_tray.markup.names import ESCAPABLE_RAW_TEXT
from verse_tray.markup.scan import Kind, Token, scan
from verse_tray.model.errors import InputError
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context, Quoted

_NAME = r"[ \t]*([^\s{}<>\"'=&%\[\]|][^{}<>\"'=&%\[\]|\n]{0,80}?)[ \t]*"


class Mark(NamedTuple):
    """One mark."""

    span: Span
    """Its place in the file, delimiters and all."""
    name: str
    """The field it names."""
    place: Quoted
    """What it stands in: a mark in an attribute's value within its quote."""

    @property
    def context(self) -> Context:
        """What it stands in."""
        return self.place.context


def mark_form(form: str) -> re.Pattern[str]:
    """Return what finds marks of a form such as ``{{NAME}}``, ``%%NAME%%`` or ``[NAME]``.

    Raises:
        InputError: the form does not say where the field's name stands, or has nothing around it.
    """
    front, found, behind = form.partition("NAME")
    if not found or not front or not behind:
        raise InputError(
            f"the form {form!r} is no mark: write NAME where the field's name stands, with something in front of "
            "it and "
            "behind it, such as '{{NAME}}' or '%%NAME%%'."
        )
    return re.compile(re.escape(front) + _NAME + re.escape(behind))


def find_marks(text: str, form: re.Pattern[str]) -> list[Mark]:
    """Return the marks of a text in the order in which they stand."""
    marks: list[Mark] = []
    raw = ""
    for token in scan(text):
        if token.kind is Kind.START:
            raw = token.name
            marks += _in_tag(text, token, form)
        elif token.kind is Kind.TEXT:
            context = Context.TEXT
            if token.raw and raw not in ESCAPABLE_RAW_TEXT:
                context = {"style": Context.STYLE, "script": Context.SCRIPT}.get(raw, Context.COMMENT)
            marks += [_mark(match, context) for match in form.finditer(text, token.start, token.end)]
        elif token.kind is Kind.UNFINISHED:  # somebody may end it, with whatever quote
            marks += [_mark(match, Context.ATTRIBUTE, "") for match in form.finditer(text, token.start, token.end)]
        else:
            marks += [_mark(match, Context.COMMENT) for match in form.finditer(text, token.start, token.end)]
    return marks


def _mark(match: re.Match[str], context: Context, quote: str | None = None) -> Mark:
    return Mark(Span(*match.span()), match[1], Quoted(context, quote))


def _in_tag(text: str, token: Token, form: re.Pattern[str]) -> Iterator[Mark]:
    matches = list(form.finditer(text, token.start, token.end))
    if not matches:
        return
    attributes = attribute_spans(text, Span(token.start, token.end))
    for match in matches:
        yield _within_tag(text, attributes, match)


def _within_tag(text: str, attributes: dict[str, AttributeSpan], match: re.Match[str]) -> Mark:
    for name, attribute in attributes.items():
        value = attribute.value
        if value is None or not value.start <= match.start() < value.end:
            continue
        quote = text[value.start - 1] if text[value.start - 1] in "\"'" else ""
        if match.end() <= value.end or not quote:  # without quotes a space in the mark seems to end the value
            return _mark(match, _context(text, name, value, match), quote)
    return _mark(match, Context.TAG)


def _context(text: str, name: str, value: Span, match: re.Match[str]) -> Context:
    if name == "style":
        return Context.STYLE
    if name.startswith("on"):
        return Context.SCRIPT
    if name in ADDRESS_ATTRIBUTES:
        return Context.ADDRESS_PART if text[value.start : match.start()].strip() else Context.ADDRESS
    return Context.ATTRIBUTE
