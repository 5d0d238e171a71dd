"""Painted boxes of two readings compared: by their elements, and by the runs in them where those are others."""

from __future__ import annotations

from verse_tray.reading.differences import Comparison, Difference, distance, nearness
from verse_tray.reading.pairing import Pairing
from verse_tray.reading.records import Box, Painted, Reading
from verse_tray.reading.thresholds import THRESHOLDS
from verse_tray.style.colours import Colour, written


def compare_boxes(before: Reading, after: Reading, pairing: Pairing, found: Comparison, *, by_text: bool) -> float:
    """Return the share of the painted boxes that is still there; what differs goes into ``found``."""
    spans = Spans(after, pairing)
    by_key = {} if by_text else {box.key: box for box in after.boxes if box.key}
    used: set[int] = set()
    total = weight = 0.0
    for box in before.boxes:
        heft = (1 + sum(len(run.text) for run in before.runs[box.first : box.last])) ** 0.5
        weight += heft
        other = by_key.get(box.key)
        if other is None or id(other) in used or not spans.overlap(box, other):
            other = spans.find(box, used)
        if other is None:
            found.add(Difference("box", "gone", box.key, 1, _told(box.painted), "", seen=True))
            continue
        used.add(id(other))
        share, told = _alike(box.painted, other.painted, empty=box.first == box.last)
        for what, was, now in told:
            found.add(Difference("box", what, box.key, 1, was, now, seen=True))
        total += heft * share * spans.overlap(box, other)
    for other in after.boxes:
        if id(other) not in used:
            weight += 0.5 * (1 + sum(len(run.text) for run in after.runs[other.first : other.last])) ** 0.5
            found.add(Difference("box", "new", other.key, 1, "", _told(other.painted), seen=True))
    return total / weight if weight else 1.0


class Spans:
    """Boxes of the second reading by the runs in them, counted in the first reading's."""

    def __init__(self, after: Reading, pairing: Pairing) -> None:
        self._now, self._last = pairing.first, pairing.last
        self._empty = [box for box in reversed(after.boxes) if box.first == box.last]
        self._by_span: dict[tuple[int, int], list[Box]] = {}
        for box in reversed(after.boxes):
            self._by_span.setdefault((box.first, box.last), []).append(box)

    def _span(self, box: Box) -> tuple[int, int] | None:
        """Return the runs of the second reading that are those of a box of the first."""
        inside = [number for number in (self._first_in(box), self._last_in(box)) if number is not None]
        return (inside[0], inside[1] + 1) if len(inside) == 2 and inside[0] <= inside[1] else None

    def _first_in(self, box: Box) -> int | None:
        return next((self._now[n] for n in range(box.first, box.last) if n in self._now), None)

    def _last_in(self, box: Box) -> int | None:
        return next((self._last[n] for n in range(box.last - 1, box.first - 1, -1) if n in self._last), None)

    def overlap(self, box: Box, other: Box) -> float:
        """Return which share of the runs in either box is in both."""
        span = self._span(box)
        if span is None:
            return float(box.first == box.last and other.first == other.last)
        shared = min(span[1], other.last) - max(span[0], other.first)
        whole = max(span[1], other.last) - min(span[0], other.first)
        return max(0.0, shared / whole) if whole > 0 else 0.0

    def find(self, box: Box, used: set[int]) -> Box | None:
        """Return a box around the same runs that no other is paired with."""
        span = self._span(box)
        if span is None:  # an icon: the next one in the order of the page
            while box.first == box.last and self._empty:
                if id(other := self._empty.pop()) not in used:
                    return other
            return None
        return next((each for each in self._by_span.get(span, ()) if id(each) not in used), None)


def _alike(one: Painted, other: Painted, *, empty: bool) -> tuple[float, list[tuple[str, str, str]]]:
    told: list[tuple[str, str, str]] = []
    if one.ground is None or other.ground is None:
        ground = 1.0 if one.ground is other.ground else 0.3
        if one.ground is not other.ground:
            told.append(("ground", _colour(one.ground), _colour(other.ground)))
    else:
        ground = nearness(one.ground, other.ground)
        if distance(one.ground, other.ground) > THRESHOLDS["ground"].most:
            told.append(("ground", _colour(one.ground), _colour(other.ground)))
    borders = 0.0
    for (width, line), (now, other_line) in zip(one.borders, other.borders, strict=True):
        near = nearness(line, other_line) if line is not None and other_line is not None else float(line is other_line)
        borders += (1 - min(1.0, abs(width - now) / 3)) * near / 4
    if borders < 1 and _borders_differ(one, other):
        told.append(("border", _edges(one), _edges(other)))
    padding = sum(1 - min(1.0, abs(a - b) / 16) for a, b in zip(one.padding, other.padding, strict=True)) / 4
    if max(abs(a - b) for a, b in zip(one.padding, other.padding, strict=True)) > THRESHOLDS["padding"].most:
        told.append(("padding", _lengths(one.padding), _lengths(other.padding)))
    radius = 1 - min(1.0, abs(one.radius - other.radius) / 16)
    if abs(one.radius - other.radius) > THRESHOLDS["radius"].most:
        told.append(("radius", f"{one.radius:g}px", f"{other.radius:g}px"))
    share = 0.45 * ground + 0.3 * borders + 0.15 * padding + 0.1 * radius
    for name in ("shadow", "turned"):
        if getattr(one, name) != getattr(other, name):
            told.append((name, "", ""))
            share *= 0.85
    if one.wide != other.wide and not empty:
        told.append(("width", _WIDTHS[one.wide], _WIDTHS[other.wide]))
        share *= 0.8
    if bool(one.picture) != bool(other.picture):
        told.append(("picture", one.picture[:80], other.picture[:80]))
        share *= 0.6
    if empty:
        for was, now in zip(one.size, other.size, strict=True):
            if abs(was - now) > THRESHOLDS["extent"].most * max(was, now):
                told.append(("extent", f"{was:g}px", f"{now:g}px"))
                share *= 0.7
    return share, told


_WIDTHS = {True: "that of its place", False: "that of what is in it"}


def _borders_differ(one: Painted, other: Painted) -> bool:
    for (width, line), (now, other_line) in zip(one.borders, other.borders, strict=True):
        if abs(width - now) > THRESHOLDS["border"].most:
            return True
        if line is not None and other_line is not None and distance(line, other_line) > THRESHOLDS["colour"].most:
            return True
    return False


def _colour(colour: Colour | None) -> str:
    return "none" if colour is None else written(colour, "hex")


def _lengths(values: tuple[float, ...]) -> str:
    return " ".join(f"{value:g}px" for value in values)


def _edges(box: Painted) -> str:
    return _lengths(tuple(width for width, _ in box.borders))


def _told(box: Painted) -> str:
    said = [f"ground {_colour(box.ground)}"] if box.ground is not None else []
    said += ["borders"] if any(width for width, _ in box.borders) else []
    said += ["a picture"] if box.picture else []
    said += ["a shadow"] if box.shadow else []
    return ", ".join(said)
