"""The pastes that a large piece takes: parted, each held against the editor's real limits, and read together."""

from __future__ import annotations

from typing import NamedTuple

from verse_tray.fitting.draft import Draft
from verse_tray.fitting.judge import Judge
from verse_tray.fitting.size import over
from verse_tray.fitting.split import Split, Unit, split
from verse_tray.fitting.trips import Trips
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.piece.view import View

_TRIES = 12
_MOST_SAID = 40
_SPARE = 20  # signs for what an editor writes in addition
_LESS = 0.88  # of the size, where a paste came out above the limit


class TooLarge(NamedTuple):
    """Something that no paste can hold."""

    element: str
    """Name of the element; empty for text."""
    begins: str
    """The words that it begins with."""
    size: int
    """Its signs."""
    around: int
    """Signs that have to stand around it in each paste: style elements, and the elements that it is in."""
    most: int
    """How many a paste can hold."""


class Pastes(NamedTuple):
    """A piece in pastes."""

    texts: tuple[str, ...]
    """The pastes, in order."""
    share: float
    """How much readers get of all of them, one below the other, 0 to 1."""
    too_large: tuple[TooLarge, ...]
    """What is larger than a paste can be; the paste that holds it is refused."""


def in_pastes(trips: Trips, lifted: Trips, judge: Judge, text: str) -> Pastes:
    """Part a text into pastes that the editor takes.

    Args:
        trips: The editor, with its limits.
        lifted: The editor without.
        judge: Compares with the author's piece, without limits.
        text: The text.
    """
    draft = lifted.draft(text)
    use = over(trips.draft(text).trip)
    assert use is not None  # else it would need no parting
    already = max(e.already for e in trips.editor.profile.limits if (e.measure, e.unit) == (use.measure, use.unit))
    room = len(text) * (use.most - already) // max(1, use.used - already)
    found, most, refused = _parted(trips, draft, max(1, room - _SPARE))
    if refused:  # what is just below the limit may be taken as it is
        closer = _parted(trips, draft, max(1, room))
        found, most, refused = closer if closer[2] < refused else (found, most, refused)
    shown = "".join(trips.draft(paste).trip.stages[-1].markup for paste in found.pastes)
    share = judge.share_of(View(parse_fragment(shown).take_tree()))
    return Pastes(found.pastes, share, tuple(_told(unit, needed, most) for unit, needed in found.too_large))


def _parted(trips: Trips, draft: Draft, most: int) -> tuple[Split, int, int]:
    """Return a text in parts of at most so many signs, or fewer, how many that were, and how many are refused."""
    for _ in range(_TRIES):
        found = split(draft, most)
        refused = sum(over(trips.draft(paste).trip) is not None for paste in found.pastes)
        if refused <= len(found.too_large):
            break
        most = max(1, int(most * _LESS))
    return found, most, refused


def _told(unit: Unit, needed: int, most: int) -> TooLarge:
    element = next((each.name for each in unit.holds if isinstance(each, Element)), "")
    nodes = [each for node in unit.holds for each in (Tree(node).nodes() if isinstance(node, Element) else [node])]
    said = " ".join("".join(map(_words, nodes)).split())
    size = unit.span.end - unit.span.start
    return TooLarge(element, said[:_MOST_SAID].strip(), size, needed - size, most)


def _words(node: Node) -> str:
    if isinstance(node, Element):
        return " " if node.name in BLOCKS or node.name == "br" else ""
    return node.data if isinstance(node, Text) else ""
