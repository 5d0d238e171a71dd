"""A link without anything to click."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element, Text
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="There is nothing to click, and screen readers read out the address, or only “link”.",
    advice="Write the text of the link between its tags, or take the link away.",
    bad='<p>Walks: <a href="https://gannetcove.example/walks"></a></p>',
    good='<p>Walks: <a href="https://gannetcove.example/walks">the next ones</a></p>',
)
_NAMED = ("aria-label", "aria-labelledby", "title")
_SHOWN = frozenset("img svg picture video audio canvas iframe object embed button input math".split())


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each link with an address and without text, picture or name."""
    shown = {span.start for each in subject.each("a") if (span := subject.span(each)) is not None and _shows(each)}
    for element in subject.each("a"):
        if not element.attributes.get("href") or any(element.attributes.get(name) for name in _NAMED):
            continue
        if element.attributes.keys() & {"id", "name", "class"}:  # a place, or something that a style sheet draws
            continue
        span = subject.span(element)  # the same for each part of a link that browsers had to divide
        if span is not None and span.start not in shown:
            yield Mistake(
                subject.name_span(element),
                "This link holds nothing that readers could click. Write its text between the tags, or take it away.",
            )


def _shows(element: Element) -> bool:
    stack = [element]
    while stack:
        for child in stack.pop().children:
            if type(child) is Text and child.data.strip(" \t\r\n\f\xa0\u200b"):
                return True
            if type(child) is Element:
                if child.name in _SHOWN or child.attributes.keys() & {"class", "style", "aria-label"}:
                    return True
                stack.append(child)
    return False
