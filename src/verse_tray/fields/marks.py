"""Marks in a piece, each with what it stands in: that decides how a value has to be written there."""

from __future__ import annotations

import re
from typing import NamedTuple

from verse_tray.fields.places import places_of
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
    matches = list(form.finditer(text))
    if not matches:
        return []
    holes = [Span(*match.span()) for match in matches]
    lettered = form.sub(lambda match: "z" * len(match[0]), text)
    return [
        Mark(hole, match[1], place)
        for match, hole, place in zip(matches, holes, places_of(lettered, holes), strict=True)
    ]
