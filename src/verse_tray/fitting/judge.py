"""How much of the author's piece readers get of a rewritten one: always held against the original."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable
from functools import cached_property
from typing import NamedTuple

from verse_tray.editors.lists import is_event_handler
from verse_tray.fitting.kept import Kept
from verse_tray.fitting.trips import Trips
from verse_tray.journeys.journey import Journey
from verse_tray.journeys.outcome import depends_on_width
from verse_tray.journeys.survival.behaviour import code_led_astray
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.patterns import lazy
from verse_tray.piece.view import View
from verse_tray.reading.compare import compare
from verse_tray.reading.differences import Comparison
from verse_tray.reading.frames import frame_of, framed
from verse_tray.reading.pairing import pair
from verse_tray.reading.read import DESKTOP, PHONE, read
from verse_tray.reading.records import Reading

_MEDIA = frozenset("img iframe video audio embed".split())
_OF_WINDOW = lazy(r"\dv(?:w|h|i|b|min|max)\b", re.IGNORECASE)
_DESKTOP_WEIGHS = 0.6
"""What the window whose look is kept weighs; the other one has the rest."""
_LOST = 0.25
"""How much it counts that all words are gone, beside what that takes from the likeness."""
_ASTRAY = 0.005
"""How much it counts that a script looks for names that the page has not; nearly twice that where all scripts do."""
_LINK = 0.02
"""How much of the likeness links to all that is gone are worth: it can be reached, though not seen."""


class Judged(NamedTuple):
    """What readers get of a text."""

    text: str
    """The text that is pasted."""
    journey: Journey
    """Its journey."""
    share: float
    """How much alike what readers get is to what the author wrote, 0 to 1; less than 0 where the text is refused."""
    worth: float
    """The same, less where words are gone: any look of theirs is better than none."""
    comparison: Comparison
    """The two compared, on a desktop."""


def of_hundred(share: float) -> int:
    """Return how much readers get as a number from 0 to 100; 100 is all of it."""
    return max(0, 100 if share > 1 - 1e-9 else min(99, round(share * 100)))


def _stretches(view: View) -> bool:
    """Tell whether a piece has lengths in shares of the window."""
    said = [e.attributes["style"] for e in view.elements if "style" in e.attributes]
    said += [each.value for sheet in view.sheets for rule in sheet.rules for each in rule.declarations]
    return any(_OF_WINDOW.search(each) for each in said)


def _media(elements: Iterable[Element]) -> Counter[str]:
    """Return the addresses of pictures, frames and films, with how often each is there."""
    return Counter(e.attributes["src"] for e in elements if e.name in _MEDIA and e.attributes.get("src"))


class Judge:
    """Compares what readers get of texts with the author's piece, in one editor's page."""

    def __init__(self, trips: Trips, text: str) -> None:
        """Take the author's piece.

        Args:
            trips: The texts that are compared.
            text: The author's.
        """
        self.trips = trips
        self._frame = frame_of(trips.editor)
        self._text = text
        self._found: Kept[Judged] = Kept()

    def judge(self, text: str) -> Judged:
        """Return what readers get of a text."""
        return self._found.of(text, self._judged)

    @cached_property
    def _view(self) -> View:
        return self.trips.draft(self._text).trip.piece.written_view

    @cached_property
    def _media(self) -> Counter[str]:
        return _media(self._view.elements)

    @cached_property
    def _code(self) -> int:
        """How many scripts and event handlers the author's piece has."""
        handlers = sum(is_event_handler(name) for each in self._view.elements for name in each.attributes)
        return handlers + sum(each.name == "script" for each in self._view.elements)

    @cached_property
    def _written(self) -> dict[int, Reading]:
        """The readings of the author's piece, by width; worked out when something is held against them."""
        both = (DESKTOP, PHONE) if self.trips.width == DESKTOP else (PHONE,)
        widths = both if depends_on_width(self._view.sheets) else (DESKTOP,)
        return {width: read(framed(self._frame, self._view), width) for width in widths}

    @cached_property
    def _same_words(self) -> bool:
        words = [[(run.text, run.made) for run in reading.runs] for reading in self._written.values()]
        return all(each == words[0] for each in words)

    def _judged(self, text: str) -> Judged:
        made = self.trips.draft(text).trip
        share, comparison = self.weighed(made.published_view)
        share = -1.0 if made.refused else share
        lost = (comparison.of - comparison.kept) / max(1, comparison.of)
        worth = share - _LOST * lost
        if self._code:
            astray = len(code_led_astray(made.piece.written_view, made.published_view))
            worth -= _ASTRAY * (1 + 0.9 * min(1.0, astray / self._code)) if astray else 0.0
        return Judged(text, made, share, worth, comparison)

    def share_of(self, view: View) -> float:
        """Return how much alike a page is to what the author wrote, 0 to 1."""
        return self.weighed(view)[0]

    def weighed(self, published: View) -> tuple[float, Comparison]:
        """Return how much alike a page is, links to what is gone counted and what leaks taken off."""
        links, view = self._without_links_to_lost(published)
        share, leaked, comparison = self._compared(view)
        share += min(links * _LINK, 0.9 * (1 - share))  # what can be reached is worth less than what is seen
        return share - min(0.5, leaked / max(1, comparison.of)), comparison

    def _compared(self, view: View) -> tuple[float, int, Comparison]:
        """Return how much alike a page is, at all widths, the most that leaked, and the first comparison."""
        page, found = framed(self._frame, view), list[Comparison]()
        same = not self._frame.depends_on_width and not depends_on_width(view.sheets) and not _stretches(view)
        after, pairing = None, None
        for width, before in self._written.items():
            if after is None or not same:
                after, pairing = self._drawn(read(page, width)), None
            if pairing is None or not self._same_words:
                pairing = pair(before, after, by_text=True)
            found.append(compare(before, after, by_text=True, pairing=pairing))
        first = _DESKTOP_WEIGHS if len(found) > 1 else 1.0
        share = first * found[0].share + (1 - first) * found[-1].share
        if not view.tree.root.children and found[0].of:
            share = 0.0
        return share, max(each.leaked for each in found), found[0]

    def _drawn(self, reading: Reading) -> Reading:
        """Return a reading in which pictures of drawings are the drawings."""
        made = {icon.address for icon in self.trips.icons.values()}
        for medium in reading.media if made else ():
            if medium.address in made:
                medium.address = ""
        return reading

    def _without_links_to_lost(self, published: View) -> tuple[float, View]:
        """Return which share of the frames and pictures that are gone links lead to, and the page without these.

        A link that stands for something is not held against the piece as words that nobody wrote.
        """
        elements = published.elements
        lost = self._media - _media(elements)
        if not any(e.name == "a" and e.attributes.get("href", "") in lost for e in elements):
            return 0.0, published
        tree = published.tree.clone()
        all_lost, count = lost.total(), 0
        stack = [tree.root]
        while stack:
            around = stack.pop()
            kept: list[Node] = []
            for child in around.children:
                inner = child.children if isinstance(child, Element) and child.name == "p" else [child]
                only = inner[0] if len(inner) == 1 else None
                href = only.attributes.get("href", "") if isinstance(only, Element) and only.name == "a" else ""
                if lost[href] > 0:
                    lost[href] -= 1
                    count += 1
                else:
                    kept.append(child)
                    stack += [child] if isinstance(child, Element) else []
            around.children = kept
        return count / all_lost, View(Tree(tree.root))
