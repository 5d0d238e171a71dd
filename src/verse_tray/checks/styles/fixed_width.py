"""A fixed width that no phone has."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Declared, Subject
from verse_tray.style.values import pixels

RULE = Rule(
    Severity.WARNING,
    readers="On a phone it sticks out of the page: readers scroll sideways, or miss what is cut off.",
    advice="Write max-width in place of width, or width: 100% with a max-width.",
    bad='<div style="width: 760px">Wear boots.</div>',
    good='<div style="width: 100%; max-width: 760px">Wear boots.</div>',
)
WIDEST_PHONE = 440
"""Width of the widest phones, in CSS pixels."""
_SIZED = ("table", "iframe", "video", "embed", "object", "canvas", "td", "th", "hr", "pre")
_ADVICE = "Write max-width in its place, or width: 100% with a max-width."
_MOST_LOOKED_AT = 100  # elements that one declaration is held against
_SCROLLS = ("auto", "scroll", "hidden", "clip")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each width above any phone's that takes effect and that nothing bounds."""
    widths = _by_width(subject)
    for declared in subject.declared:
        width = pixels(declared.declaration.value) if declared.declaration.name in ("width", "min-width") else None
        if width is None or width <= WIDEST_PHONE:
            continue
        if declared.rule is not None and "width" in declared.rule.condition:
            continue
        name, value = declared.declaration.name, declared.declaration.value
        about = widths.get((name, value), []) if declared.element is None else [declared.element]
        if any(_takes_effect(subject, element, declared) for element in about[:_MOST_LOOKED_AT]):
            yield Mistake(declared.span, f"{name}: {value} sticks out of the page on any phone. {_ADVICE}")
    for element in subject.each(*_SIZED):
        given = element.attributes.get("width", "").strip().removesuffix("px")
        if not given.isdecimal() or int(given[:6]) <= WIDEST_PHONE or element.namespace != HTML:
            continue
        styled = not {"width", "max-width"}.isdisjoint(subject.winners(element))
        if not styled and not _within_bounds(subject, element):
            message = f'width="{given}" on this <{element.name}> sticks out of the page on any phone. {_ADVICE}'
            yield Mistake(subject.attribute_span(element, "width"), message)


def _by_width(subject: Subject) -> dict[tuple[str, str], list[Element]]:
    """Return the elements by property and value of the width that wins on them."""
    found: dict[tuple[str, str], list[Element]] = {}
    for element in subject.elements:
        winners = subject.winners(element)
        for name in ("width", "min-width"):
            if name in winners:
                found.setdefault((name, winners[name][0]), []).append(element)
    return found


def _takes_effect(subject: Subject, element: Element, declared: Declared) -> bool:
    winners = subject.winners(element)
    name, value = declared.declaration.name, declared.declaration.value
    if winners.get(name, ("",))[0] != value or element.namespace != HTML:
        return False
    if name == "width" and winners.get("max-width", ("none",))[0] != "none":
        return False
    if any(re.match(rf"{name} .*@media", key) for key in winners):  # another width on narrow screens
        return False
    return winners.get("display", ("",))[0] != "none" and not _within_bounds(subject, element)


def _within_bounds(subject: Subject, element: Element) -> bool:
    """Tell whether something around an element scrolls or cuts what sticks out."""
    for around in subject.around(element):
        winners = subject.winners(around)
        for name in ("overflow", "overflow-x"):
            if winners.get(name, ("",))[0].split(" ")[0] in _SCROLLS:
                return True
    return False
