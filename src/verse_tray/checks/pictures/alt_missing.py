"""A picture without alternative text, or with one that says nothing."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Text
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Who does not see the picture, or when it does not load, learns nothing of what it shows.",
    advice='Say in alt what the picture shows; alt="" for one that only decorates.',
    bad='<img src="https://pictures.gannetcove.example/gannet.png" width="72" height="72">',
    good='<img src="https://pictures.gannetcove.example/gannet.png" width="72" height="72" alt="A gannet, diving">',
)
_SAYS_NOTHING = lazy(
    r"\s*(?:(?:an? |the )?(?:image|picture|photo|img|graphic|icon|spacer|untitled|alt(?: text)?|undefined|null)\s*\d*"
    r"|[\w%-]+\.(?:png|jpe?g|gif|webp|svg|avif))\s*",
    re.IGNORECASE,
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each picture, picture button and area of a map without a text that says something."""
    for element in subject.each("img", "input", "area"):
        if element.namespace != HTML or (
            element.name == "input" and element.attributes.get("type", "").lower() != "image"
        ):
            continue
        if element.name == "area" and "href" not in element.attributes:
            continue
        if element.attributes.get("aria-hidden") == "true" or element.attributes.get("role") in (
            "presentation",
            "none",
        ):
            continue
        alt = element.attributes.get("alt")
        named = element.attributes.get("aria-label") or element.attributes.get("aria-labelledby")
        if alt is None and not named and not _is_counter(element):
            message = 'This picture has no alternative text. Say in alt what it shows; alt="" if it only decorates.'
            yield Mistake(subject.name_span(element), message)
        elif alt and _SAYS_NOTHING.fullmatch(alt):
            message = f"The alternative text “{alt.strip()}” says nothing of what the picture shows."
            yield Mistake(subject.attribute_span(element, "alt"), message, Severity.NOTE)
        elif alt == "" and not named and (link := _only_child_of_link(subject, element)) is not None:
            message = (
                "This picture is all that the link around it holds, so its alternative text has to say where it leads."
            )
            if not (link.attributes.get("aria-label") or link.attributes.get("title")):
                yield Mistake(subject.attribute_span(element, "alt"), message)


def _is_counter(element: Element) -> bool:
    return element.attributes.get("width") == "1" and element.attributes.get("height") == "1"


def _only_child_of_link(subject: Subject, element: Element) -> Element | None:
    link = next((each for each in subject.around(element) if each.name == "a" and "href" in each.attributes), None)
    if link is None:
        return None
    stack = [link]
    while stack:
        for child in stack.pop().children:
            if type(child) is Text and child.data.strip():
                return None
            if type(child) is Element:
                if child is not element and (
                    child.name in ("svg", "img", "input") or child.attributes.get("aria-label")
                ):
                    return None
                stack.append(child)
    return link
