"""A script that runs before what it needs is there: its element, or its library."""

from __future__ import annotations

import re
from collections.abc import Iterator

from msgspec import Struct

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject, WrittenCode
from verse_tray.script.kinds import script_kind
from verse_tray.script.reading import ScriptReading, selector_of

RULE = Rule(
    Severity.ERROR,
    readers="The script stops where it looks for what is not there yet; the rest of it does not happen.",
    advice="Put the script behind the element it is about, and libraries before the scripts that use them.",
    bad="<script>document.getElementById('next').textContent = 'Low water at six';</script><p id=next></p>",
    good="<p id=next></p><script>document.getElementById('next').textContent = 'Low water at six';</script>",
)
_MOST_LIBRARIES = 40
_PARTS_OF_NAMES = lazy(r"[.\-_](?:min|bundle|slim|umd|esm|iife|module|prod|production|all|pkgd|v?\d[\w.]*)(?=[.\-_]|$)")
_SHORTEST = 4
_DOLLAR = ("$", "jQuery")
_GIVES_DOLLAR = "query"  # part of the file's name of a library that gives others a $


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each script that at once looks for an element, or uses a library, that comes later."""
    if not subject.scripts:
        return
    loaded = [element for element in subject.each("script") if element.attributes.get("src")][:_MOST_LIBRARIES]
    libraries = [_Library(_start(subject, each), _stem(each), _file(each), _waits(each)) for each in loaded]
    known: set[str] = set()  # names that earlier scripts of the piece have made
    for code, reading in subject.script_readings:
        if code.start is None or script_kind(code.element.attributes) == "module":
            continue
        yield from _elements(subject, code, reading)
        needed = {name: reading.used[name] for name in reading.used if name not in known}
        yield from _libraries(subject, code, needed, libraries)
        known |= reading.declared.keys() | reading.made


def _elements(subject: Subject, code: WrittenCode, reading: ScriptReading) -> Iterator[Mistake]:
    told: set[str] = set()
    for sought in reading.sought:
        targets = subject.targets.get(selector_of(sought))
        # a list of a class is kept up to date by browsers
        if not sought.at_once or sought.how == "class" or not targets or sought.name in told:
            continue
        places = [subject.span(target) for target in targets]
        if all(place is not None and place.start > (code.start or 0) for place in places):
            first = places[0]
            assert first is not None
            told.add(sought.name)
            line, column = subject.source.place(first.start)
            what = f"the element with the identifier “{sought.name}”" if sought.how == "id" else f"“{sought.name}”"
            yield Mistake(
                code.at(sought.span),
                f"When this runs, {what} is not there yet: it comes at {line}:{column}. Move the script behind it.",
                Severity.WARNING if sought.how == "all" else None,
            )


def _libraries(
    subject: Subject, code: WrittenCode, needed: dict[str, Span], libraries: list[_Library]
) -> Iterator[Mistake]:
    if not needed or not libraries:
        return
    lateness = [(each, _lateness(each, code.start or 0)) for each in libraries]
    there = [each for each, how in lateness if not how]
    stems = {each.stem for each in there}
    dollar_there = any(_GIVES_DOLLAR in each.file for each in there)
    for library, how in lateness:
        if not how:
            continue
        known = len(library.stem) < _SHORTEST or library.stem in stems
        names = [] if known else [name for name in needed if name.lower() == library.stem]
        if not dollar_there and (_GIVES_DOLLAR in library.file or len(libraries) == 1):
            names += [name for name in _DOLLAR if name in needed]
        for name in names[:1]:
            line, column = subject.source.place(library.start)
            yield Mistake(
                code.at(needed.pop(name)),
                f"When this runs, {name} is not there yet: its library at {line}:{column} {how}. Put the "
                "library first.",
            )


class _Library(Struct, frozen=True):
    """A script from elsewhere."""

    start: int
    """Where it stands."""
    stem: str
    """The name that it has by its file."""
    file: str
    waits: str
    """What keeps it from running where it stands; empty for nothing."""


def _lateness(library: _Library, start: int) -> str:
    """Return why a library may not be there when a script runs; empty where it is."""
    return "is loaded later" if library.start > start else library.waits


def _start(subject: Subject, library: Element) -> int:
    span = subject.span(library)
    return -1 if span is None else span.start


def _waits(library: Element) -> str:
    if "async" in library.attributes:
        return "is not waited for (async)"
    if "defer" in library.attributes or script_kind(library.attributes) == "module":
        return "only runs when the page is complete"
    return ""


def _file(library: Element) -> str:
    return re.split(r"[?#]", library.attributes["src"])[0].rstrip("/").rpartition("/")[2].removesuffix(".js").lower()


def _stem(library: Element) -> str:
    """Return the name that a library has by its file."""
    return re.sub(r"[^a-z0-9]", "", _PARTS_OF_NAMES.sub("", f".{_file(library)}"))
