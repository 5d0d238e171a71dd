"""Columns that do not add up to the width they share."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import counted
from verse_tray.piece.subject import Subject
from verse_tray.style.values import words

RULE = Rule(
    Severity.WARNING,
    readers="A column drops below the others, sticks out, or leaves a hole.",
    advice="Make the parts add up to the whole: 12 of 12, or 100%.",
    bad='<div class="row"><div class="col-6">Tides</div><div class="col-4">Weather</div><div '
    'class="col-4">Walks</div></div>',
    good='<div class="row"><div class="col-4">Tides</div><div class="col-4">Weather</div><div '
    'class="col-4">Walks</div></div>',
)
_TWELFTHS = 12
_MOST_NAMED = 12
_COLUMN = lazy(r"(?:col|column|span|cell)((?:-[a-z]{1,3})?)-?(\d{1,2})")
_ROW = lazy(r"(?:row|grid|columns)(?:-.*)?")
_REPEAT = lazy(r"repeat\(\s*(\d{1,3})\s*,(.*)\)", re.DOTALL)
_SPACED = lazy(r"(?:offset|push|pull|order|start|m[lrxs]|justify|space|center|auto|gap)-|.*-(?:offset|push|start)")
_SPAN = lazy(r"span (\d{1,3})|(\d{1,3}) */ *span (\d{1,3})|(\d{1,3}) */ *(\d{1,3})")
_PLACED = ("grid-area", "grid-column-start", "grid-column-end", "grid-row", "position", "display")
_PERCENT = lazy(r"(\d*\.?\d+)%")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for rows of twelve parts, percentages and spans that do not add up."""
    for element in subject.elements:
        if any(_ROW.fullmatch(name) for name in _names(element)):
            yield from _twelfths(subject, element)
    for declared in subject.declared:
        if declared.declaration.name == "grid-template-columns":
            percents = [float(m[1]) for word in _tracks(declared.declaration.value) if (m := _PERCENT.fullmatch(word))]
            if sum(percents) > 100.5:
                yield Mistake(
                    declared.span,
                    f"These columns take {sum(percents):g}% of the width, so the last sticks out. {_ADVICE}",
                )
    for element in subject.elements:
        tracks = subject.winners(element).get("grid-template-columns")
        if tracks is not None and "auto-fi" not in tracks[0] and "[" not in tracks[0] and "subgrid" not in tracks[0]:
            yield from _spans(subject, element, len(_tracks(tracks[0])))


_ADVICE = "Make the parts add up to the whole."


def _tracks(value: str) -> list[str]:
    found = []
    for word in words(value):
        repeated = _REPEAT.fullmatch(word)
        found += words(repeated[2]) * int(repeated[1]) if repeated else [word]
    return found


def _twelfths(subject: Subject, row: Element) -> Iterator[Mistake]:
    parts: dict[str, list[int]] = {}
    for child in row.children:
        if type(child) is not Element:
            continue
        for name in _names(child):
            if (match := _COLUMN.fullmatch(name)) is not None:
                parts.setdefault(match[1], []).append(int(match[2]))
    for sizes in parts.values():
        if max(sizes) > _TWELFTHS or len(set(sizes)) < 2:  # of one size: meant to go on in the next row
            continue
        filled = _filled(sizes, _TWELFTHS)
        if filled is None:
            told = f"{_sum(sizes)} is {sum(sizes)}, and a row has {_TWELFTHS} parts"
            yield Mistake(
                subject.name_span(row),
                f"The columns of this row do not add up: {told}, so one drops below. {_ADVICE}",
            )
            return
        if filled < _TWELFTHS and not _leaves_room(row):
            yield _hole(subject, row, f"{_sum(sizes)} of {_TWELFTHS}")


def _filled(sizes: list[int], whole: int) -> int | None:
    """Return how much of the last row is filled by parts that follow one another; None where one has to drop below."""
    filled = 0
    for size in sizes:
        if 0 < filled < whole < filled + size:
            return None
        filled = size if filled + size > whole else filled + size
    return filled


def _sum(sizes: list[int]) -> str:
    return f"{' + '.join(map(str, sizes[:_MOST_NAMED]))}{' …' if len(sizes) > _MOST_NAMED else ''}"


def _leaves_room(row: Element) -> bool:
    """Tell whether something in a row says that it is to be left open."""
    elements = [each for each in [row, *row.children] if type(each) is Element]
    return any(_SPACED.match(name) for each in elements for name in _names(each))


def _hole(subject: Subject, row: Element, told: str) -> Mistake:
    return Mistake(
        subject.name_span(row),
        f"The columns of this row leave a hole: {told}. {_ADVICE}",
        Severity.NOTE,
    )


def _names(element: Element) -> list[str]:
    return element.attributes.get("class", "").lower().split()


def _spans(subject: Subject, grid: Element, count: int) -> Iterator[Mistake]:
    taken: list[int] = []  # columns of the children in order
    follow = True  # whether none of them says where it stands
    for child in grid.children:
        if type(child) is not Element:
            continue
        winners = subject.winners(child)
        value = winners.get("grid-column", winners.get("grid-column-end", ("",)))[0]
        match = _SPAN.fullmatch(value)
        if match is None:
            follow = follow and not value and winners.keys().isdisjoint(_PLACED)
            taken.append(1)
            continue
        end = int(match[1] or 0) or (int(match[2]) + int(match[3]) - 1 if match[2] else int(match[5]) - 1)
        taken.append(end)
        follow = follow and bool(match[1]) and end <= count
        if end > count > 0:
            yield Mistake(
                subject.name_span(child),
                f"grid-column: {value} reaches to column {end}, and the grid around it has {counted(count, 'column')}. "
                f"{_ADVICE}",
            )
    if follow and len(set(taken)) > 1 and "dense" not in subject.winners(grid).get("grid-auto-flow", ("",))[0]:
        yield from _row_of_spans(subject, grid, taken, count)


def _row_of_spans(subject: Subject, grid: Element, taken: list[int], count: int) -> Iterator[Mistake]:
    """Yield a mistake where children that follow one another do not fill the rows of a grid."""
    filled = _filled(taken, count)
    if filled is None:
        yield Mistake(
            subject.name_span(grid),
            f"The spans in this grid do not add up: {_sum(taken)} is {sum(taken)}, and a row has {count} columns, so "
            f"one drops below. {_ADVICE}",
        )
    elif filled < count and taken[-1] > 1:  # single ones may be too few to fill the last row
        yield _hole(subject, grid, f"{_sum(taken)} of {count}")
