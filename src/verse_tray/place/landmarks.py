"""Landmarks in a template: found by text, element, class or identifier, once or not at all."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from verse_tray.markup.names import fold_name
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import nearest
from verse_tray.model.spans import Span
from verse_tray.place.tags import Tag, tags_of

_MOST_TOLD = 12
_EXCERPT = 70  # signs


class NoLandmarkError(InputError):
    """A landmark that a template does not have at all."""


class Landmark(NamedTuple):
    """A place of a template that an author has named."""

    span: Span
    """What was named: a start tag, an end tag, a comment, or a text."""
    opens: Tag | None
    """The start tag, where it is one."""


class Template:
    """A template being searched."""

    def __init__(self, source: Source, hidden: Sequence[Span], *, xml: bool) -> None:
        """Take a template.

        Args:
            source: It.
            hidden: Stretches in which no landmark counts: pieces that were put in before.
            xml: Whether it is written in the manner of XML.
        """
        self.source = source
        self.xml = xml
        self._hidden = hidden

    def _some(self, *, name: str = "", holding: str = "") -> Iterator[Tag]:
        """Yield its tags, those of one name or with something in their attributes."""
        found = tags_of(self.source.text, xml=self.xml, name=name, holding=holding)
        return (each for each in found if not self._is_hidden(each.span))

    def _is_hidden(self, span: Span) -> bool:
        return any(each.start <= span.start < each.end for each in self._hidden)

    def landmark(self, named: str) -> Landmark:
        """Return the place that a landmark names.

        Args:
            named: ``#identifier``, ``.class``, ``<element>``, or text as it stands there (``text:`` in front of it
                where it begins with one of these signs).

        Raises:
            InputError: it is not there, or more than once; every place is told.
        """
        found = self._found(named)
        if len(found) == 1:
            return found[0]
        name = self.source.name
        if not found:
            raise NoLandmarkError(f"{name}: the landmark {named} is not there. {self._hint(named)}")
        rows = [self._row(each.span) for each in found[:_MOST_TOLD]]
        more = f"\nAnd {len(found) - _MOST_TOLD} more." if len(found) > _MOST_TOLD else ""
        raise InputError(
            f"{name}: the landmark {named} is there {len(found)} times. Name one that is there once, such as a longer "
            "stretch of text:\n" + "\n".join(rows) + more
        )

    def _row(self, span: Span) -> str:
        line, column = self.source.place(span.start)
        text = self.source.text
        start = text.rfind("\n", 0, span.start) + 1
        end = text.find("\n", span.start)
        excerpt = " ".join(text[start : len(text) if end < 0 else end].split())
        return f"  {self.source.name}:{line}:{column}: {excerpt[:_EXCERPT]}{'…' if len(excerpt) > _EXCERPT else ''}"

    def _found(self, named: str) -> list[Landmark]:
        if (by := _BY_ATTRIBUTE.fullmatch(named)) is not None:
            wanted = by[2]
            attribute = "id" if by[1] == "#" else "class"
            starts = [each for each in self._some(holding=wanted) if each.kind == "start"]
            return [
                Landmark(each.span, each)
                for each in starts
                if (value := each.attribute(attribute)) is not None
                and (value == wanted if attribute == "id" else wanted in value.split())
            ]
        if (element := _BY_ELEMENT.fullmatch(named)) is not None:
            wanted = element[1] if self.xml else fold_name(element[1])
            return [Landmark(each.span, each) for each in self._some(name=wanted) if each.kind == "start"]
        return self._by_text(named.removeprefix("text:"))

    def _by_text(self, wanted: str) -> list[Landmark]:
        text, found, at = self.source.text, dict[Span, Landmark](), 0
        if not wanted.strip() or wanted not in text:
            return []
        tags = tags_of(text, xml=self.xml, beyond=text.index(wanted))
        held = next(tags, None)
        while (at := text.find(wanted, at)) >= 0:
            span = Span(at, at + len(wanted))
            at = span.end
            if self._is_hidden(span):
                continue
            while held is not None and held.until <= span.start:
                held = next(tags, None)
            if held is None or held.span.start >= span.end:
                found.setdefault(span, Landmark(span, None))
            else:
                found.setdefault(held.span, Landmark(held.span, held if held.kind == "start" else None))
        return list(found.values())

    def _hint(self, named: str) -> str:
        by = _BY_ATTRIBUTE.fullmatch(named)
        if by is not None:
            attribute = "id" if by[1] == "#" else "class"
            values = {each.attribute(attribute) or "" for each in self._some() if each.kind == "start"}
            names = values if attribute == "id" else {word for value in values for word in value.split()}
            near = nearest(by[2], sorted(names - {""}))
            return f"Did you mean {by[1]}{near}?" if near else "Look it up in the template, and name it as it stands."
        if (element := _BY_ELEMENT.fullmatch(named)) is not None:
            near = nearest(element[1], sorted({each.name for each in self._some() if each.kind == "start"}))
            return f"Did you mean <{near}>?" if near else "Look it up in the template, and name it as it stands."
        words = named.removeprefix("text:").split()
        loose = re.compile(r"\s*".join(map(re.escape, words)), re.IGNORECASE) if words else None
        near_by = loose.search(self.source.text) if loose is not None else None
        if near_by is None:
            return "Copy a stretch of text, a tag or a comment from the template as it stands there."
        line, column = self.source.place(near_by.start())
        return f"Did you mean “{near_by[0][:_EXCERPT]}” at {line}:{column}? Capitals and spaces count."


_BY_ATTRIBUTE = re.compile(r"([#.])([^\s#.<>]+)")
_BY_ELEMENT = re.compile(r"<\s*([A-Za-z][^\s/>]*)\s*>?")
