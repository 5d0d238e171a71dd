"""A piece on its way through the strategies: what it is, and what its editor leaves of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cached_property

from verse_tray.edit.values import attribute_splice
from verse_tray.fitting.icons import Icons
from verse_tray.fitting.probe import Probe
from verse_tray.journeys.journey import Journey
from verse_tray.markup.names import VOID
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.reading.read import DESKTOP
from verse_tray.reading.scripts import is_active
from verse_tray.style.cascade import Winners, winners_of
from verse_tray.style.declarations import Declaration, parse_declarations
from verse_tray.style.property_table import are_one, inherited, longhands
from verse_tray.style.sheets import Sheet
from verse_tray.style.variables import Environment, environment_of, substituted

_SHOWS = frozenset("display visibility opacity height max-height".split())
_WORD = lazy(r"[\w-]+")
_PAGE = frozenset((":root", "html", "body"))


class Draft:
    """A piece, and its journey."""

    def __init__(self, trip: Journey, probe: Probe, width: int = DESKTOP, icons: Icons | None = None) -> None:
        self.trip = trip
        """Its journey."""
        self.probe = probe
        """Tells what else its editor keeps."""
        self.subject = Subject(trip.piece)
        """The piece, with what it is made of."""
        self.width = width
        """The window, in CSS pixels, whose look counts."""
        self.icons: Icons = icons or {}
        """Pictures that were drawn of drawings."""
        self._kept = {element.key: element for element in trip.published.elements()}
        self._environments: dict[int, Environment] = {}
        self._looks: dict[int, dict[str, str]] = {}
        self._styles: dict[int, set[str]] = {}

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
            elif element.key not in self._kept and element.children and self.probe.drops(element.name):
                found.add(element.key)
        return found

    @cached_property
    def loses_rules(self) -> bool:
        """Whether rules of style elements go, or reach less of the piece than they did."""
        view, published = self.trip.piece.written_view, self.trip.published_view
        written = sum(len(sheet.rules) for _, sheet in self.subject.sheets)
        if not written:
            return False
        if sum(len(sheet.rules) for sheet in published.sheets) < written:
            return True
        if any(len(published.cascade.matched.get(key, ())) < len(hits) for key, hits in view.cascade.matched.items()):
            return True
        return bool(_of_the_page(self.subject.sheets)) and not _of_the_page(enumerate(published.sheets))

    @cached_property
    def page_look(self) -> dict[str, str]:
        """Return what the piece's rules for the page around it give it by inheritance, custom properties resolved."""
        known = inherited()
        found = {e.name: e.value for e in _of_the_page(self.subject.sheets) if _is_inherited(e.name, known)}
        resolved = {name: substituted(value, self._root_environment) for name, value in found.items()}
        return {name: value.strip() for name, value in resolved.items() if value and value.strip()}

    def loses(self, element: Element, name: str) -> bool:
        """Tell whether a declaration of an element's style attribute goes."""
        kept = self.kept(element)
        if kept is None:
            return True
        if element.key not in self._styles:
            self._styles[element.key] = {e.name for e in parse_declarations(kept.attributes.get("style", ""))}
        names = self._styles[element.key]
        return name not in names and not any(are_one(name, other) for other in names)

    @cached_property
    def is_active(self) -> bool:
        """Whether something in the piece can show what is hidden at first."""
        return is_active(self.trip.piece.parsed.tree.root, self.trip.piece.written_view.cascade.matched)

    @cached_property
    def _code(self) -> frozenset[str]:
        return frozenset(self.subject.script_words)

    def can_come(self, element: Element) -> bool:
        """Tell whether a script names an element, or what is around it, or a state shows it."""
        for hit in self.trip.piece.written_view.cascade.matched.get(element.key, ()):
            if hit.where.startswith(":") and not hit.where.startswith("::"):
                if any(name in _SHOWS for name, _ in (*hit.normal, *hit.important)):
                    return True
        around = self.subject.parents.get(element.key)
        for each in (element, around):
            names = [] if each is None else [each.attributes.get("id", ""), *each.attributes.get("class", "").split()]
            if any(name and self._is_in_code(name) for name in names):
                return True
        return False

    def _is_in_code(self, name: str) -> bool:
        """Tell whether a script names something, be it put together with a number."""
        return self._code.issuperset(_WORD.findall(name)) or (name.rstrip("0123456789") or name) in self._code

    def winners(self, element: Element) -> Winners:
        """Return the winning declarations of an element in its window, states and pseudo-elements in their names."""
        matched = self.trip.piece.written_view.cascade.matched
        return winners_of(matched.get(element.key, ()), element.attributes.get("style", ""), self.width)

    def look(self, element: Element) -> dict[str, str]:
        """Return the declarations that win on an element as it stands, with custom properties resolved."""
        if element.key not in self._looks:
            self._looks[element.key] = self._look(element)
        return self._looks[element.key]

    def _look(self, element: Element) -> dict[str, str]:
        environment = self.environment(element)
        found = {}
        for name, (value, important) in self.winners(element).items():
            if " " in name or name.startswith("--"):
                continue
            resolved = substituted(value, environment)
            if resolved is None:  # it wins, and comes to nothing (CSS Custom Properties Level 1, section 3.1)
                resolved = "unset"
            if resolved.strip():
                found[name] = f"{resolved.strip()}{' !important' if important else ''}"
        return found

    def makes_text(self, element: Element, place: str) -> bool:
        """Tell whether a style still makes text in front of an element, or behind it, where it is published."""
        kept = self.kept(element)
        hits = () if kept is None else self.trip.published_view.cascade.matched.get(kept.key, ())
        return any(name in winners_of(hits, "", self.width) for name in (f"content {place}", f"content {place[1:]}"))

    def published_look(self, element: Element) -> dict[str, str]:
        """Return the declarations that win on an element as published, those with custom properties left out."""
        kept = self.kept(element)
        if kept is None:
            return {}
        matched = self.trip.published_view.cascade.matched
        winners = winners_of(matched.get(kept.key, ()), kept.attributes.get("style", ""), self.width)
        return {
            name: f"{value}{' !important' if important else ''}"
            for name, (value, important) in winners.items()
            if " " not in name and not name.startswith("--") and "var(" not in value
        }

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
        known = self._environments
        missing = [each for each in (element, *self.subject.around(element)) if each.key not in known]
        for each in reversed(missing):  # no call for each level: pieces may be nested as deep as they like
            parent = self.subject.parents.get(each.key)
            around = self._root_environment if parent is None else known[parent.key]
            own = {name: value for name, (value, _) in self.winners(each).items() if name.startswith("--")}
            known[each.key] = environment_of(around, {n: v for n, v in own.items() if " " not in n})
        return known[element.key]

    @cached_property
    def _root_environment(self) -> Environment:
        """The custom properties that the piece gives the page around it."""
        declared = {
            e.name: e.value for e in _of_the_page(self.subject.sheets, _PAGE | {"*"}) if e.name.startswith("--")
        }
        return environment_of({}, declared)

    @cached_property
    def elements(self) -> list[Element]:
        """The elements whose tags stand in the text."""
        return [element for element in self.subject.elements if self.subject.name_span(element) is not None]

    def outside(self, taken: set[int]) -> Iterator[Element]:
        """Yield the elements that are in none of those taken, by their keys, while they are being taken."""
        for element in self.elements:
            parent = self.subject.parents.get(element.key)
            if parent is not None and parent.key in taken:
                taken.add(element.key)
            else:
                yield element

    def with_attributes(self, element: Element, **given: str) -> Iterator[Splice]:
        """Yield what gives an element attributes; those that it has get another value."""
        for name, value in given.items():
            if value != element.attributes.get(name):
                yield from attribute_splice(self.subject, element, name, value)

    def without_attribute(self, element: Element, name: str) -> Iterator[Splice]:
        """Yield what takes an attribute of an element away, with a blank in front of it."""
        found = self.subject.attribute(element, name)
        if found is not None:
            front = self.subject.source.text[found.whole.start - 1]
            yield Splice(Span(found.whole.start - (front in " \t\n"), found.whole.end), "")

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
        """Yield what gives an element another name; an end tag that was left out is written."""
        source_map = self.trip.piece.source_map
        start, end, outer = (
            self.subject.name_span(element),
            source_map.end_span(element),
            source_map.outer_span(element),
        )
        if start is None or outer is None:
            return
        yield Splice(start, f"<{name}")
        yield Splice(end, f"</{name}>") if end is not None else self.put(outer.end, f"</{name}>")

    def put(self, at: int, typed: str) -> Splice:
        """Return what puts something into the text at an offset."""
        return Splice(Span(at, at), typed)

    def inner(self, element: Element) -> Span | None:
        """Return the place of an element's contents; None where that cannot be known, and for what has none."""
        source_map = self.trip.piece.source_map
        start, end, outer = source_map.span(element), source_map.end_span(element), source_map.outer_span(element)
        if start is None or outer is None or element.name in VOID:
            return None
        return Span(start.end, outer.end if end is None else end.start)


def _of_the_page(sheets: Iterable[tuple[object, Sheet]], roots: frozenset[str] = _PAGE) -> list[Declaration]:
    """Return the declarations of rules that are for the page around a piece."""
    return [
        each
        for _, sheet in sheets
        for rule in sheet.rules
        if not rule.around and {part.strip().lower() for part in rule.selectors.split(",")} & roots
        for each in rule.declarations
    ]


def _is_inherited(name: str, known: frozenset[str]) -> bool:
    return name in known or (bool(longhands(name)) and all(each in known for each in longhands(name)))
