"""Something that the page loads from an insecure address."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.addresses import scheme_of
from verse_tray.model.findings import Severity
from verse_tray.piece.addresses import addresses
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="On a secure page browsers do not load it: what it does, or shows, is missing.",
    advice="Write https: if the host answers there; else find another host.",
    bad='<script src="http://libraries.gannetcove.example/slides.js"></script>',
    good='<script src="https://libraries.gannetcove.example/slides.js"></script>',
)
_BLOCKED = {"script": "src", "iframe": "src", "object": "data", "embed": "src"}
_SHOWN = frozenset(("img", "video", "audio", "source", "input"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each library, frame, style sheet, medium or form whose address begins with http:."""
    for element, name, value in addresses(subject):
        if name == "cite" or scheme_of(value) != "http":
            continue
        if name in ("action", "formaction"):
            yield Mistake(
                subject.attribute_span(element, name),
                "This form sends what readers type by http:, unprotected: browsers warn them first, or refuse. Write "
                "https:.",
                Severity.WARNING,
            )
            continue
        sheet = element.name == "link" and "stylesheet" in element.attributes.get("rel", "").lower()
        if _BLOCKED.get(element.name) == name or (sheet and name == "href"):
            message = f"On a secure page browsers block this <{element.name}>, because its address begins with http:."
            yield Mistake(subject.attribute_span(element, name), f"{message} Write https:.")
        elif element.name in _SHOWN and name in ("src", "poster"):
            message = (
                "The address of this begins with http:. On a secure page browsers try https: in its place, or block it."
            )
            yield Mistake(subject.attribute_span(element, name), f"{message} Write https:.", Severity.WARNING)
