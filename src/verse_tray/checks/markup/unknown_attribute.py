"""An attribute that HTML does not know."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.markup.vocabulary import ARIA, ATTRIBUTES, ELEMENTS, GLOBAL_ATTRIBUTES
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import MOST_GUESSES, nearest
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The attribute does nothing: the link has no address, the picture no size.",
    advice="Write the name as HTML does, or put data- in front of a name of your own.",
    bad='<a herf="https://gannetcove.example/walks">Walks</a>',
    good='<a href="https://gannetcove.example/walks">Walks</a>',
)
_NONE: frozenset[str] = frozenset()


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each attribute that does nothing; where no known name is near, a note."""
    told: set[tuple[str, str]] = set()
    for element in subject.elements:
        if element.namespace != HTML or element.name not in ELEMENTS:
            continue
        own = ATTRIBUTES.get(element.name, _NONE)
        for name in element.attributes:
            if name in GLOBAL_ATTRIBUTES or name in own or name.startswith(("data-", "on", "xmlns:")):
                continue
            if (element.name, name) in told:
                continue
            told.add((element.name, name))
            if len(told) > MOST_GUESSES:
                return
            yield from _unknown(subject, element, name, own)


def _unknown(subject: Subject, element: Element, name: str, own: frozenset[str]) -> Iterator[Mistake]:
    if name.startswith("aria-"):
        if name[5:] not in ARIA and (near := nearest(name[5:], ARIA, 0.7)):
            message = f"There is no {name}, so screen readers make nothing of it; did you mean aria-{near}?"
            yield Mistake(_place(subject, element, name), message)
        return
    if not name.isalpha() or not name.isascii():  # read by other people's scripts, or left behind by a broken tag
        return
    elsewhere = [each for each, attributes in ATTRIBUTES.items() if name in attributes]
    near = nearest(name, own | GLOBAL_ATTRIBUTES, 0.75)
    if elsewhere:
        where = " and ".join(f"<{each}>" for each in elsewhere[:2])
        message = f"{name} does nothing on <{element.name}>; it belongs to {where}."
        yield Mistake(_place(subject, element, name), message, Severity.NOTE)
    elif near:
        message = f"HTML knows no attribute {name}, so it does nothing here; did you mean {near}?"
        yield Mistake(_place(subject, element, name), message)
    elif element.attributes[name]:
        message = f"HTML knows no attribute {name} on <{element.name}>. Put data- in front of a name of your own."
        yield Mistake(_place(subject, element, name), message, Severity.NOTE)


def _place(subject: Subject, element: Element, name: str) -> Span | None:
    return subject.attribute_span(element, name)
