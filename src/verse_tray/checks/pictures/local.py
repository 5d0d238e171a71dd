"""A picture whose address is a path on the author's machine."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.pictures import is_local, local_file
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The site looks for the picture beside its own page, and does not find it.",
    advice="Upload the picture, and replace its path by the hosted address: verse-tray pictures FILE --hosted MAP.",
    bad='<img src="pictures/limpet.png" alt="A limpet">',
    good='<img src="https://pictures.gannetcove.example/limpet.png" alt="A limpet">',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture or medium with a path in place of an address."""
    for element in subject.each("img", "source", "video", "audio"):
        for name in ("src", "poster"):
            address = element.attributes.get(name, "")
            if not is_local(address):
                continue
            there = " (the file is there)" if local_file(subject, address) is not None else ""
            yield Mistake(
                subject.attribute_span(element, name),
                f"{address.strip()[:80]} is a path, not an address{there}: readers' browsers look for it beside the "
                "page it is pasted into. Upload the file, and write its hosted address: verse-tray pictures FILE "
                "--hosted MAP.",
            )
