"""A picture or a font written into the markup that is huge."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The page loads slowly each time, and many editors refuse or cut so long an address.",
    advice="Upload the file, and write its address.",
    bad='<img alt="A limpet" '
    f'src="data:image/gif;base64,{"R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7" + "AAAA" * 6_000}">',
    good='<img alt="A limpet" src="https://pictures.gannetcove.example/limpet.png">',
)
MOST_CHARACTERS = 16_000
"""Longest address with a file in it that is not told of, in characters."""
_DATA = lazy(r"data:[a-z]+/[^,\s\"')]{1,80},[^\s\"')]*", re.IGNORECASE)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each address in markup or styles that holds a file longer than that."""
    if len(subject.source.text) < MOST_CHARACTERS:
        return
    for element in subject.elements:
        for name, value in element.attributes.items():
            if len(value) > MOST_CHARACTERS and (match := _DATA.search(value)) and len(match[0]) > MOST_CHARACTERS:
                yield _mistake(subject.value_span(element, name, Span(match.start(), match.start() + 5)), match[0])
    for code, _ in subject.sheets:
        for match in _DATA.finditer(code.text) if len(code.text) > MOST_CHARACTERS else ():
            if len(match[0]) > MOST_CHARACTERS:
                yield _mistake(code.at(Span(match.start(), match.start() + 5)), match[0])


def _mistake(span: Span | None, address: str) -> Mistake:
    return Mistake(
        span,
        f"A file of {len(address) * 3 // 4 // 1000:,} KB is written into the markup here ({len(address):,} "
        "characters): many editors refuse or cut that. Upload it, and write its address.",
    )
