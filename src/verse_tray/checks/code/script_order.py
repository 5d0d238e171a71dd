"""A script that runs before what it needs is there: its element, or its library."""

from __future__ import annotations

import re
import sys
from bisect import bisect_right
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject, WrittenCode
from verse_tray.script.kinds import script_kind

RULE = Rule(
    Severity.ERROR,
    readers="The script stops where it looks for what is not there yet; the rest of it does not happen.",
    advice="Put the script behind the element it is about, and libraries before the scripts that use them.",
    bad="<script>document.getElementById('next').textContent = 'Low water at six';</script><p id=next></p>",
    good="<p id=next></p><script>document.getElementById('next').textContent = 'Low water at six';</script>",
)
_MOST_LIBRARIES = 40
_WAITS = lazy(r"DOMContentLoaded|\bonload\b|['\"]load['\"]|readyState|\bdefer\b|\$\(\s*(?:function|document|\(\))")
_SOUGHT = lazy(r"getElementById\(\s*(['\"])([\w-]+)\1\s*\)|querySelector\(\s*(['\"])#([\w-]+)\3\s*\)")
_QUIET = lazy(r"\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|`(?:\\.|[^`\\])*`|//[^\n]*|/\*.*?(?:\*/|\Z)|[{}]", re.DOTALL)
_PARTS_OF_NAMES = lazy(r"[.\-_](?:min|bundle|slim|umd|esm|iife|module|prod|production|all|pkgd|v?\d[\w.]*)(?=[.\-_]|$)")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each script that at once looks for an element, or uses a library, that comes later."""
    for code in subject.scripts:
        if "getElementById" in code.text or "querySelector" in code.text:
            yield from _elements(subject, code)
    libraries = [element for element in subject.each("script") if element.attributes.get("src")][:_MOST_LIBRARIES]
    for library in libraries:
        yield from _library(subject, library)


def _elements(subject: Subject, code: WrittenCode) -> Iterator[Mistake]:
    if code.start is None or _WAITS.search(code.text) or script_kind(code.element.attributes) == "module":
        return
    told: set[str] = set()
    depths = _depths(code.text)
    for match in _SOUGHT.finditer(code.text):
        name = match[2] or match[4]
        targets = subject.identifiers.get(name, [])
        if not targets or name in told or _depth_at(depths, match.start()):
            continue
        places = [subject.span(target) for target in targets]
        if all(place is not None and place.start > code.start for place in places):
            first = places[0]
            assert first is not None
            told.add(name)
            line, column = subject.source.place(first.start)
            yield Mistake(
                code.at(Span(*match.span())),
                f"When this runs, the element with the identifier “{name}” is not there yet: it comes at "
                f"{line}:{column}. Move the script behind it.",
            )


@lru_cache(maxsize=16)
def _depths(text: str) -> list[tuple[int, int]]:
    """Return how many braces are open from each offset on where that changes."""
    depth, found = 0, [(0, 0)]
    for sign in _QUIET.finditer(text):
        if sign[0] in "{}":
            depth = max(0, depth + (1 if sign[0] == "{" else -1))
            found.append((sign.start(), depth))
    return found


def _depth_at(depths: list[tuple[int, int]], offset: int) -> int:
    return depths[bisect_right(depths, (offset, sys.maxsize)) - 1][1]


def _library(subject: Subject, library: Element) -> Iterator[Mistake]:
    own = subject.span(library)
    if own is None or "async" in library.attributes:
        return
    file = re.split(r"[?#]", library.attributes["src"])[0].rstrip("/").rpartition("/")[2].removesuffix(".js")
    stem = re.sub(r"[^a-z0-9]", "", _PARTS_OF_NAMES.sub("", f".{file}").lower())
    if len(stem) < 4:
        return
    for code in subject.scripts:
        if code.start is None or _WAITS.search(code.text) or script_kind(code.element.attributes) == "module":
            continue
        late = "defer" in library.attributes or script_kind(library.attributes) == "module"
        if own.start < code.start and not late:
            continue
        depths = _depths(code.text)
        for word in re.finditer(r"(?<![\w$.'\"/-])(?:new\s+)?([A-Za-z$][\w$]*)\s*[.(]", code.text):
            if word[1].lower() == stem and not _depth_at(depths, word.start()):
                line, column = subject.source.place(own.start)
                how = "only runs when the page is complete" if own.start < code.start else "is loaded later"
                yield Mistake(
                    code.at(Span(*word.span(1))),
                    f"When this runs, {word[1]} is not there yet: its library at {line}:{column} {how}. Put the "
                    "library first.",
                )
                break
