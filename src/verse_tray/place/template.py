"""A piece put into a template, between marks of its own: once, however often that is done, and nothing else changes."""

from __future__ import annotations

import re
from typing import Literal, NamedTuple

from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.model.spans import Span
from verse_tray.place.element_end import element_end
from verse_tray.place.landmarks import Landmark, NoLandmarkError, Template
from verse_tray.place.tags import is_xml_flavoured

How = Literal["before", "after", "instead-of"]
_ANY_MARK = re.compile(r"<!-- verse-tray (begin|end): ([^\r\n]*?) -->")
_NAME = re.compile(r"[\w.-]+(?: [\w.-]+)*")


class Change(NamedTuple):
    """What is different in a template."""

    start: int
    """Where, in the text before."""
    old: str
    """What stood there."""
    new: str
    """What stands there now."""


class Inserted(NamedTuple):
    """A template with a piece in it."""

    text: str
    """The template afterwards."""
    changes: tuple[Change, ...]
    """What is different, in order; none where the piece stood there already as it is."""
    notes: tuple[str, ...]
    """What the author should know."""


def insert(template: Source, piece: str, name: str, how: How, landmark: str) -> Inserted:
    """Put a piece into a template.

    Where it stands there already between its marks, it is replaced; where the landmark says another place, it moves.

    Args:
        template: The template.
        piece: The piece's markup.
        name: Its name, which the marks bear.
        how: Where it goes: before the landmark, behind it, or in its place. What a start tag opens counts as a whole.
        landmark: The landmark, see :meth:`verse_tray.place.landmarks.Template.landmark`.

    Raises:
        InputError: the landmark is not there once, it never ends, or marks were broken.
    """
    if _NAME.fullmatch(name) is None:
        raise InputError(f"{name}: marks cannot bear this name. Give the file one of letters, digits and hyphens.")
    if (own := _ANY_MARK.search(piece)) is not None:
        raise InputError(f"{name}: it holds a mark itself, {own[0]}. Give the piece without the marks of a template.")
    text = template.text
    blocks = _blocks(template)
    there = blocks.get(name)
    rest, hidden = text, [span for other, span in blocks.items() if other != name]
    if there is not None:
        rest = text[: there.start] + text[there.end :]
        size = there.end - there.start
        hidden = [span if span.start < there.start else Span(span.start - size, span.end - size) for span in hidden]
    place = _place(template.edited(rest), hidden, how, landmark, there)
    line_end = "\r\n" if "\r\n" in text[:4000] else "\n"
    if how == "instead-of" and there is not None and place == Span(there.start, there.start):
        old = text[there.start : there.end]
        alone, indent = old.endswith("\n"), old[: len(old) - len(old.lstrip(" \t"))]
    else:
        alone, indent = _is_alone(rest, place), _indent(rest, place.start)
    block = _block(piece, name, line_end, indent if alone else None)
    new = rest[: place.start] + block + rest[place.end :]
    if there is not None and place.start == there.start and place.start == place.end:
        old = text[there.start : there.end]
        return Inserted(new, () if old == block else (Change(there.start, old, block),), ())
    inserted = Change(place.start, rest[place.start : place.end], block)
    if there is None:
        return Inserted(new, (inserted,), ())
    line, _ = template.place(there.start)
    moved = place.start if place.start <= there.start else place.start + there.end - there.start
    changes = tuple(sorted((Change(there.start, text[there.start : there.end], ""), inserted._replace(start=moved))))
    return Inserted(new, changes, (f"{template.name}: it stood at line {line}, and has moved to the landmark.",))


def standing(template: Source) -> list[str]:
    """Return the names of the pieces that stand in a template between their marks.

    Raises:
        InputError: marks were broken.
    """
    return list(_blocks(template))


def _blocks(template: Source) -> dict[str, Span]:
    """Return the stretches between marks, marks included, by name; whole lines where they fill them."""
    found: dict[str, Span] = {}
    begun: tuple[str, int] | None = None
    text = template.text
    for mark in _ANY_MARK.finditer(text):
        line, _ = template.place(mark.start())
        kind, name = mark[1], mark[2]
        if kind == "begin" and begun is None and name not in found:
            begun = name, mark.start()
        elif kind == "end" and begun is not None and begun[0] == name:
            found[name] = _with_lines(text, Span(begun[1], mark.end()))
            begun = None
        else:
            raise InputError(
                f"{template.name}:{line}: the mark “{mark[0]}” has no fellow, or is there twice. Each piece has "
                "one begin and one end: remove what is left over, and place it again."
            )
    if begun is not None:
        line, _ = template.place(begun[1])
        raise InputError(f"{template.name}:{line}: “begin: {begun[0]}” has no end mark. Remove it, and try again.")
    return found


def _with_lines(text: str, span: Span) -> Span:
    start = text.rfind("\n", 0, span.start) + 1
    behind = re.compile(r"[ \t]*(?:\r\n|\n)").match(text, span.end)
    alone = not text[start : span.start].strip() and behind is not None
    return Span(start, behind.end()) if alone and behind is not None else span


def _place(template: Source, hidden: list[Span], how: How, named: str, there: Span | None) -> Span:
    """Return what the piece takes the place of; an empty stretch for a place between others."""
    text = template.text
    xml = is_xml_flavoured(text)
    searched = Template(template, hidden, xml=xml)
    try:
        found = searched.landmark(named)
    except NoLandmarkError:
        if how != "instead-of" or there is None:
            raise
        return Span(there.start, there.start)  # it has gone when the piece was put in
    whole = _whole(template, found, how, named, xml=xml)
    if how == "instead-of":
        return _with_lines(text, whole)
    at = whole.start if how == "before" else whole.end
    line = text.rfind("\n", 0, at) + 1
    if how == "before" and not text[line:at].strip():
        at = line
    elif how == "after" and (behind := re.compile(r"[ \t]*(?:\r\n|\n)").match(text, at)) is not None:
        at = behind.end()
    return Span(at, at)


def _whole(template: Source, found: Landmark, how: How, named: str, *, xml: bool) -> Span:
    """Return the place of a landmark with all that it opens."""
    if found.opens is None:
        return found.span
    if how == "before":
        return found.span
    ended = element_end(template.text, found.opens, xml=xml)
    if ended is None:
        line, column = template.place(found.span.start)
        raise InputError(
            f"{template.name}:{line}:{column}: the landmark {named} opens <{found.opens.name}>, and nothing ends it: "
            "no place behind it is certain. Give it its end tag, or name another landmark, or use --before."
        )
    return Span(found.span.start, ended[0])


def _is_alone(text: str, place: Span) -> bool:
    """Tell whether a place begins a line, and takes whole lines."""
    starts = place.start == 0 or text[place.start - 1] == "\n"
    return starts and (place.start == place.end or text[place.end - 1] == "\n")


def _indent(text: str, at: int) -> str:
    """Return the blanks that the line at a place begins with."""
    found = re.compile(r"[ \t]*(?=\S)").match(text, at)
    return found[0] if found is not None else ""


def _block(piece: str, name: str, line_end: str, indent: str | None) -> str:
    """Return the piece between its marks: on lines of its own with an indent, or within a line for None."""
    begin, end = f"<!-- verse-tray begin: {name} -->", f"<!-- verse-tray end: {name} -->"
    body = re.sub(r"\r\n|\r|\n", line_end, piece.strip("\r\n"))
    if indent is None:
        return begin + body + end
    return f"{indent}{begin}{line_end}{body}{line_end}{indent}{end}{line_end}"
