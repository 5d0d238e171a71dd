"""What to ask next: what is not known yet and can be told, the most telling first, as much as fits."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable

from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.probe.probe import FRAME, MOST_CELLS, size_of
from verse_tray.learning.probe.questions import Question, attributes_text, element_markup, knows, questions
from verse_tray.learning.probe.wishes import Wishes
from verse_tray.markup.names import HTML

_AGAIN = 3
"""So many cells are asked again in later probes: other answers tell that a rule changes."""
_SMALL = 5000
"""Where less fits, names are asked before attributes."""
_CROSSED = "tide class id style title lang dir role aria-label data-id align width height".split()
"""Attributes that are asked of every element where there is room."""
_NEEDING = frozenset(
    "table thead tbody tfoot tr td th caption col colgroup iframe script style link meta base title".split()
)
"""Elements that cannot stand alone, or eat others."""


def choose(
    most: int,
    asked: Collection[str] = (),
    facts: Facts | None = None,
    wishes: Wishes | None = None,
    *,
    visual: bool = False,
) -> list[Question]:
    """Return the cells of the next probe.

    Args:
        most: Characters that it may have.
        asked: Markup of the cells that were answered.
        facts: What is known by them.
        wishes: What somebody wishes to know.
        visual: Whether it is pasted into a visual pane, where one style element changes everything.
    """
    small = most < _SMALL
    found = [
        each
        for each in questions(wishes)
        if each.markup not in asked
        and (small or not each.small)
        and not (visual and "<style" in each.markup)
        and not (facts is not None and is_idle(each, facts))
    ]
    if small and facts is None:
        found.sort(key=lambda each: not each.small)
    if facts is not None and sum(map(size_of, found)) < most / 2:
        found += [each for each in _crossed(facts) if each.markup not in asked]
    chosen = [each for each in questions() if each.markup in asked and each.asks == "elements"][:_AGAIN]
    return fitting([*chosen, *found], most)


def fitting(questions: Iterable[Question], most: int) -> list[Question]:
    """Return as many of the cells, in order, as a probe of so many characters holds."""
    chosen: list[Question] = []
    room = most - FRAME
    for each in questions:
        if size_of(each) <= room and len(chosen) < MOST_CELLS:
            room -= size_of(each)
            chosen.append(each)
    return chosen


def is_idle(question: Question, facts: Facts) -> bool:
    """Tell whether a cell can say nothing new: it is about an attribute or a part of an element that goes."""
    if question.asks in ("style properties", "style values", "declarations of your own pieces"):
        rows = [row for (_, name), each in facts.attributes.items() if name == "style" for row in each]
        return bool(rows) and not any(row.got for row in rows)
    if question.asks.startswith(("elements", "values of", "attributes of")):
        tag = re.match(r"<([a-z0-9-]+)", question.markup)
        return tag is not None and facts.first(tag[1]) in ("drop", "unwrap", "escape")
    return False


def _hangs_on_element(name: str, facts: Facts) -> bool:
    """Tell whether an attribute stays on some elements and not on others, or was asked of too few to know."""
    where = [any(row.got is not None for row in rows) for (_, key), rows in facts.attributes.items() if key == name]
    return len(where) < 3 or (any(where) and not all(where))


def _crossed(facts: Facts) -> list[Question]:
    """Return elements that stay, each with the attributes that were asked elsewhere and not of it."""
    found = []
    for (namespace, name), fates in facts.elements.items():
        if namespace != HTML or name in _NEEDING or facts.first(name) != "keep" or not fates:
            continue
        stays = [
            each
            for each in _CROSSED
            if (name, each) not in facts.attributes and knows(each) and _hangs_on_element(each, facts)
        ]
        if stays:
            found.append(Question("attributes of elements", element_markup(name, attributes_text(stays))))
    return found
