"""A piece on its way through the strategies: what it is, and what its editor leaves of it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property

from verse_tray.edit.values import attribute_splice
from verse_tray.journeys.journey import Journey
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.reading.read import DESKTOP
from verse_tray.style.cascade import Winners, winners_of
from verse_tray.style.declarations import parse_declarations
from verse_tray.style.property_table import are_one
from verse_tray.style.variables import Environment, environment_of, substituted

_ROOTS = frozenset((":root", "html", "body", "*"))


class Draft:
    """A piece, and its journey."""

    def __init__(self, trip: Journey) -> None:
        self.trip = trip
        """Its journey."""
        self.subject = Subject(trip.piece)
        """The piece, with what it is made of."""
        self._kept = {element.key: element for element in trip.published.elements()}
        self._environments: dict[int, Environment] = {}

    def kept(self, element: Element) -> Element | None:
        """Return what an element has become; None for one that goes."""
        return self._kept.get(element.key)

    def is_lost(self, element: Element) -> bool:
        """Tell whether an element goes by itself, and not with one around it that takes its contents along."""
        return element.key not in self._kept and not any(
            each.key in self._emptied for each in self.subject.around(element)
        )

    @cached_property
    def _emptied(self) -> set[int]:
        """The elements that go with their contents."""
        left = set(self._kept) | {text.key for text, _ in self.trip.published_view.texts}
        found: set[int] = set()
        for element in reversed(self.subject.elements):  # what is inside comes before what is around it
            if any(child.key in left for child in element.children):
                left.add(element.key)
            elif element.key not in self._kept and element.children:
                found.add(element.key)
        return found

    @cached_property
    def loses_rules(self) -> bool:
        """Whether rules of style elements go."""
        written = sum(len(sheet.rules) for _, sheet in self.subject.sheets)
        return bool(written) and sum(len(sheet.rules) for sheet in self.trip.published_view.sheets) < written

    def loses(self, element: Element, name: str) -> bool:
        """Tell whether a declaration of an element's style attribute goes."""
        kept = self.kept(element)
        if kept is None:
            return True
        names = {each.name for each in parse_declarations(kept.attributes.get("style", ""))}
        return not any(are_one(name, other) for other in names)

    def winners(self, element: Element) -> Winners:
        """Return the winning declarations of an element on a desktop, states and pseudo-elements in their names."""
        matched = self.trip.piece.written_view.cascade.matched
        return winners_of(matched.get(element.key, ()), element.attributes.get("style", ""), DESKTOP)

    def look(self, element: Element) -> dict[str, str]:
        """Return the declarations that win on an element as it stands, with custom properties resolved."""
        environment = self.environment(element)
        found = {}
        for name, (value, important) in self.winners(element).items():
            if " " in name or name.startswith("--"):
                continue
            resolved = substituted(value, environment)
            if resolved is not None and resolved.strip():
                found[name] = f"{resolved.strip()}{' !important' if important else ''}"
        return found

    def own_look(self, element: Element) -> dict[str, str]:
        """Return the declarations of an element's style attribute, the last of each property."""
        found: dict[str, str] = {}
        for each in parse_declarations(element.attributes.get("style", "")):
            if each.name and each.value:
                found.pop(each.name, None)
                found[each.name] = f"{each.value}{' !important' if each.important else ''}"
        return found

    def environment(self, element: Element) -> Environment:
        """Return the custom properties that an element has."""
        if element.key not in self._environments:
            parent = self.subject.parents.get(element.key)
            around = self._root_environment if parent is None else self.environment(parent)
            own = {name: value for name, (value, _) in self.winners(element).items() if name.startswith("--")}
            self._environments[element.key] = environment_of(around, {n: v for n, v in own.items() if " " not in n})
        return self._environments[element.key]

    @cached_property
    def _root_environment(self) -> Environment:
        """The custom properties that the piece gives the page around it."""
        declared = {
            each.name: each.value
            for _, sheet in self.subject.sheets
            for rule in sheet.rules
            if not rule.around and {part.strip().lower() for part in rule.selectors.split(",")} & _ROOTS
            for each in rule.declarations
            if each.name.startswith("--")
        }
        return environment_of({}, declared)

    def elements(self) -> Iterator[Element]:
        """Yield the elements whose tags stand in the text."""
        for element in self.subject.elements:
            if self.subject.name_span(element) is not None:
                yield element

    def with_attributes(self, element: Element, **given: str) -> Iterator[Splice]:
        """Yield what gives an element attributes; those that it has get another value."""
        for name, value in given.items():
            if value != element.attributes.get(name):
                yield from attribute_splice(self.subject, element, name, value)

    def with_tags(self, element: Element, start: str, end: str) -> Iterator[Splice]:
        """Yield what gives an element other tags; an end tag that was left out is written, where it has one."""
        source_map = self.trip.piece.source_map
        opened, closed, outer = source_map.span(element), source_map.end_span(element), source_map.outer_span(element)
        if opened is None or outer is None:
            return  # one that browsers put in
        yield Splice(opened, start)
        if closed is not None:
            yield Splice(closed, end)
        elif end:
            yield self.put(outer.end, end)

    def renamed(self, element: Element, name: str) -> Iterator[Splice]:
        """Yield what gives an element another name; nothing for one whose tags do not both stand in the text."""
        start, end = self.subject.name_span(element), self.trip.piece.source_map.end_span(element)
        if start is not None and end is not None:
            yield Splice(start, f"<{name}")
            yield Splice(end, f"</{name}>")

    def put(self, at: int, typed: str) -> Splice:
        """Return what puts something into the text at an offset."""
        return Splice(Span(at, at), typed)

    def inner(self, element: Element) -> Span | None:
        """Return the place of an element's contents; None where its end tag does not stand in the text."""
        source_map = self.trip.piece.source_map
        start, end = source_map.span(element), source_map.end_span(element)
        return None if start is None or end is None else Span(start.end, end.start)
