"""Styles that were worked out in a page before: of pieces in one page, most elements share theirs."""

from __future__ import annotations

from typing import Any, NamedTuple

from msgspec import Struct

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element
from verse_tray.reading.looks import Traits, traits_of
from verse_tray.reading.records import Look, Painted
from verse_tray.style.cascade import Hit, Winners, winners_of
from verse_tray.style.colours import Colour
from verse_tray.style.computed import computed, first_style
from verse_tray.style.computed_style import Style
from verse_tray.style.hints import LOOK_ATTRIBUTES, direction_of

_MOST = 1_500  # styles that are kept for the next reading
_NO_STYLE: Winners = {}


class Flags(Struct, frozen=True):
    """What the winning declarations of an element say beside how it looks."""

    makes: bool
    """Whether they make text."""
    moves: bool
    """Whether they say something of a state."""


class ElementKnown(NamedTuple):
    """What follows from an element and what is around it."""

    style: Style
    """Its computed values."""
    traits: Traits
    """What follows from these."""
    winners: Winners
    """Its winning declarations."""
    flags: Flags
    """What these say beside."""


class StylesKnown:
    """What follows from elements' names, attributes, matching rules and what is around them, for one width of window.

    Everything is kept by the identity of what it follows from, and that is kept too. Several threads may use one: of
    two answers the first stays.
    """

    def __init__(self, width: int) -> None:
        self.width = width
        """Width of the window in CSS pixels."""
        self.first = first_style(width)
        """The style around a page's root."""
        self.looks: dict[tuple[Any, ...], Look] = {}
        """Looks of text, as the reader asks for them."""
        self.boxes: dict[tuple[int, Colour, bool, bool], Painted | None] = {}
        """Boxes that are painted, as the reader asks for them."""
        self._hits: dict[tuple[Hit, ...], tuple[Hit, ...]] = {}
        self._winners: dict[tuple[int, str], Winners] = {}
        self._flags: dict[int, Flags] = {}
        self._elements: dict[tuple[Any, ...], ElementKnown] = {}
        self._made: dict[tuple[Any, ...], Style] = {}

    @property
    def is_full(self) -> bool:
        """Whether it is better begun anew than kept."""
        return len(self._elements) + len(self._made) + len(self._winners) > _MOST

    def hits(self, found: tuple[Hit, ...]) -> tuple[Hit, ...]:
        """Return the one tuple that stands for equal ones."""
        return self._hits.setdefault(found, found)

    def element(self, element: Element, parent: Style, hits: tuple[Hit, ...]) -> ElementKnown:
        """Return what follows from an element.

        Args:
            element: The element.
            parent: The style of what it stands in, as it was returned before.
            hits: The rules that match it, from :meth:`hits`.
        """
        attributes = element.attributes
        if attributes.get("dir", "").lower() == "auto":  # what is in it says which
            attributes = {**attributes, "dir": direction_of(element)}
            element = Element(element.name, element.namespace, attributes, element.key, element.children)
        said: tuple[tuple[str, str], ...] = ()
        if attributes and not attributes.keys().isdisjoint(LOOK_ATTRIBUTES):
            said = tuple((name, attributes[name]) for name in attributes if name in LOOK_ATTRIBUTES)
        key = (id(parent), element.name, element.namespace, id(hits) if hits else 0, said)
        found = self._elements.get(key)
        if found is None:
            winners = self._winners_of(hits, attributes.get("style", ""))
            if element.name == "table" and element.namespace == HTML:  # what is in it is not kept
                element = Element(element.name, element.namespace, attributes, element.key, [])
            style = computed(element, parent, winners)
            made = ElementKnown(style, traits_of(style), winners, self._flags_of(winners))
            found = self._elements.setdefault(key, made)
        return found

    def _winners_of(self, hits: tuple[Hit, ...], style: str) -> Winners:
        if not hits and not style:
            return _NO_STYLE
        found = self._winners.get((id(hits), style))
        if found is None:
            found = self._winners.setdefault((id(hits), style), winners_of(hits, style, self.width))
        return found

    def _flags_of(self, winners: Winners) -> Flags:
        found = self._flags.get(id(winners))
        if found is None:
            wheres = {place.partition(" ")[2] for place in winners} - {""}
            makes = any(where.endswith(("::before", "::after")) for where in wheres)
            moves = any(where.startswith(":") and not where.startswith("::") for where in wheres)
            found = self._flags.setdefault(id(winners), Flags(makes, moves))
        return found

    def made(self, element: Element, parent: Style, winners: Winners, which: str) -> Style:
        """Return the computed values of a pseudo-element."""
        key = (id(parent), element.name, id(winners), which)
        found = self._made.get(key)
        if found is None:
            found = self._made.setdefault(key, computed(element, parent, winners, where=which))
        return found
