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
_COLUMN = lazy(r"(?:col|column|span|cell)((?:-[a-z]{1,3})?)-?(\d{1,2})")
_ROW = lazy(r"(?:row|grid|columns)(?:-.*)?")
_REPEAT = lazy(r"repeat\(\s*(\d{1,3})\s*,(.*)\)", re.DOTALL)
_PERCENT = lazy(r"(\d*\.?\d+)%")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for rows of twelve parts, percentages and spans that do not add up."""
    for element in subject.elements:
        if any(_ROW.fullmatch(name) for name in element.attributes.get("class", "").lower().split()):
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
        for name in child.attributes.get("class", "").lower().split():
            if (match := _COLUMN.fullmatch(name)) is not None:
                parts.setdefault(match[1], []).append(int(match[2]))
    for sizes in parts.values():
        if max(sizes) > _TWELFTHS or len(set(sizes)) < 2:  # of one size: meant to go on in the next row
            continue
        filled = 0
        for size in sizes:
            if 0 < filled < _TWELFTHS < filled + size:
                told = f"{' + '.join(map(str, sizes))} is {sum(sizes)}, and a row has {_TWELFTHS} parts"
                yield Mistake(
                    subject.name_span(row),
                    f"The columns of this row do not add up: {told}, so one drops below. {_ADVICE}",
                )
                return
            filled = size if filled + size > _TWELFTHS else filled + size


def _spans(subject: Subject, grid: Element, count: int) -> Iterator[Mistake]:
    for child in grid.children:
        if type(child) is not Element:
            continue
        value = subject.winners(child).get("grid-column", ("",))[0]
        match = re.fullmatch(r"span (\d{1,3})|(\d{1,3}) */ *span (\d{1,3})|(\d{1,3}) */ *(\d{1,3})", value)
        if match is None:
            continue
        end = int(match[1] or 0) or (int(match[2]) + int(match[3]) - 1 if match[2] else int(match[5]) - 1)
        if end > count > 0:
            yield Mistake(
                subject.name_span(child),
                f"grid-column: {value} reaches to column {end}, and the grid around it has {counted(count, 'column')}. "
                f"{_ADVICE}",
            )
