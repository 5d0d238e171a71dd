"""A picture, or another file of a style, whose address is a path on the author's machine."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.addresses import srcset_addresses
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.pictures import is_local, local_file
from verse_tray.piece.subject import Subject
from verse_tray.style.tokens import style_addresses

RULE = Rule(
    Severity.WARNING,
    readers="The site looks for the picture beside its own page, and does not find it.",
    advice="Upload the picture, and replace its path by the hosted address: verse-tray pictures FILE --hosted MAP.",
    bad='<img src="pictures/limpet.png" alt="A limpet">',
    good='<img src="https://pictures.gannetcove.example/limpet.png" alt="A limpet">',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture or medium, also one that a style names, with a path in place of an address."""
    told: set[tuple[int, str]] = set()  # a srcset names its picture once more
    for element, address, span in (*_in_attributes(subject), *_in_styles(subject)):
        if not is_local(address) or (element.key, address) in told:
            continue
        told.add((element.key, address))
        there = " (the file is there)" if local_file(subject, address) is not None else ""
        yield Mistake(
            span,
            f"{address.strip()[:80]} is a path, not an address{there}: readers' browsers look for it beside the "
            "page it is pasted into. Upload the file, and write its hosted address: verse-tray pictures FILE "
            "--hosted MAP.",
        )


_Row = tuple[Element, str, Span | None]


def _in_attributes(subject: Subject) -> Iterator[_Row]:
    for element in subject.each("img", "source", "video", "audio", "track", "input", "image"):
        for name in ("src", "poster", "href", "xlink:href"):
            if address := element.attributes.get(name):
                yield element, address, subject.attribute_span(element, name)
        for address in srcset_addresses(element.attributes.get("srcset", "")):
            yield element, address, subject.attribute_span(element, "srcset")


def _in_styles(subject: Subject) -> Iterator[_Row]:
    for code, _ in subject.sheets:
        for address, inside, _ in style_addresses(code.text):
            yield code.element, address, code.at(inside)
    for element in subject.elements:
        for address, inside, _ in style_addresses(element.attributes.get("style", "")):
            yield element, address, subject.value_span(element, "style", inside)
