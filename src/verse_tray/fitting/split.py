"""A piece in several pastes that each stand alone, where it is too large for one."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS, TEXT_LEVEL
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Comment, Element, Node, Text
from verse_tray.model.spans import Span

_OPENED = frozenset("div section article main header footer aside ul ol table tbody".split())
"""Elements that may stand in two pastes; all others stay whole."""
_WITH_NEXT = frozenset("h1 h2 h3 h4 h5 h6 style script link thead caption colgroup hr".split())
_DEEPEST = 50  # elements around a part: what is deeper stays whole
_COLUMNS = ("flex", "grid", "inline-flex", "inline-grid", "table")
_IN_LINE = TEXT_LEVEL | frozenset("br img wbr".split())
"""Elements that stand within a line: a stretch of them and of text stays whole."""


class Unit(NamedTuple):
    """What stays together."""

    around: tuple[Element, ...]
    """The elements around it that are opened again in each paste, the outermost first."""
    span: Span
    """Its place in the text."""
    holds: tuple[Node, ...]
    """What it is made of."""


class Split(NamedTuple):
    """A text in pastes."""

    pastes: tuple[str, ...]
    """The pastes, in order."""
    too_large: tuple[tuple[Unit, int], ...]
    """What is larger than a paste can be, and how many signs it takes there with what has to stand around it."""


def split(draft: Draft, most: int) -> Split:
    """Part a text into pastes of at most so many signs.

    Headings stay with what follows, and rows with the header row of their table, which is repeated; lists go on
    counting; identifiers stand in the first paste only.
    """
    return _Splitter(draft, most).split()


class _Splitter:
    def __init__(self, draft: Draft, most: int) -> None:
        self.draft = draft
        self.text = draft.subject.source.text
        self.most = most
        self.map = draft.trip.piece.source_map
        self.openable: set[int] = set()
        for element in reversed(draft.subject.elements):  # what is inside comes before what is around it
            if self._may_be_opened(element):
                self.openable.add(element.key)
        self.opened: set[int] = set()
        self.counted: dict[int, int] = {}
        self.front = "".join(
            self.text[span.start : span.end]
            for each in draft.subject.each("style")
            if draft.kept(each) is not None and (span := self.map.outer_span(each)) is not None
        )

    def split(self) -> Split:
        pastes: list[str] = []
        large: list[tuple[Unit, int]] = []
        held: list[Unit] = []
        size = len(self.front)
        for unit in self._units(self.draft.trip.piece.parsed.tree.root.children, ()):
            if (alone := len(self.front) + self._size(unit, ())) > self.most:
                large.append((unit, alone))
            added = self._size(unit, held[-1].around if held else ())
            if held and size + added > self.most:
                kept = _without_waiting(held)
                pastes.append(self._flushed(held[:kept]))
                held = held[kept:]
                while held and len(self.front) + len(self._typed([*held, unit])) > self.most:
                    pastes.append(self._flushed(held[:1]))  # what waits has no room beside what follows
                    held = held[1:]
                size = len(self.front) + len(self._typed(held)) if held else len(self.front)
                added = self._size(unit, held[-1].around if held else ())
            held.append(unit)
            size += added
        if held:
            pastes.append(self._flushed(held))
        return Split(tuple(paste for paste in pastes if paste.strip()), tuple(large))

    def _size(self, unit: Unit, open_now: tuple[Element, ...]) -> int:
        """Return how many signs a unit adds to a paste in which some elements are open."""
        tags = [self._start(each) for each in unit.around[_shared(open_now, unit.around) :]]
        return unit.span.end - unit.span.start + sum(map(len, tags)) + sum(len(e.name) + 3 for e in unit.around)

    def _units(self, nodes: list[Node], around: tuple[Element, ...]) -> Iterator[Unit]:
        """Yield what stays together, in order: the smallest stretches where what holds them may be opened again."""
        held: list[Node] = []
        for node in nodes:
            if isinstance(node, Element) and node.name == "style" and self.draft.kept(node) is not None:
                continue  # in front of every paste
            if node.key in self.openable and len(around) < _DEEPEST:
                yield from self._unit(held, around)
                held = []
                assert isinstance(node, Element)
                yield from self._units(node.children, (*around, node))
                continue
            in_line = isinstance(node, Text) or (isinstance(node, Element) and node.name in _IN_LINE)
            if not in_line and any(not _waits(each) for each in held):
                yield from self._unit(held, around)
                held = []
            held.append(node)
            if not in_line and not _waits(node):
                yield from self._unit(held, around)
                held = []
        yield from self._unit(held, around)

    def _may_be_opened(self, element: Element) -> bool:
        outer = self.map.outer_span(element)
        if element.name not in _OPENED or outer is None or self.draft.inner(element) is None:
            return False
        if outer.end - outer.start <= self.most // 4 and element.name != "tbody":
            return False
        look = self.draft.look(element)
        if look.get("display", "").split(" ")[0] in _COLUMNS and element.name != "table":
            return False
        children = [child for child in element.children if isinstance(child, Element)]
        if len(children) < 2 and not any(child.key in self.openable for child in children):
            return False
        words = any(isinstance(child, Text) and child.data.strip() for child in element.children)
        return not words or any(child.name in BLOCKS for child in children)

    def _unit(self, nodes: list[Node], around: tuple[Element, ...]) -> Iterator[Unit]:
        spans = [span for node in nodes if (span := self._span(node)) is not None]
        if spans and any(not isinstance(node, Text) or node.data.strip() for node in nodes):
            unit = Unit(around, Span(min(s.start for s in spans), max(s.end for s in spans)), tuple(nodes))
            if len(nodes) > 1 and len(self.front) + self._size(unit, ()) > self.most:
                for node in nodes:  # what stays together has no room together
                    yield from self._unit([node], around)
            else:
                yield unit

    def _span(self, node: Node) -> Span | None:
        return self.map.outer_span(node) if isinstance(node, Element) else self.draft.subject.span(node)

    def _flushed(self, units: list[Unit]) -> str:
        typed = self._typed(units)
        for unit in units:
            self.opened.update(each.key for each in unit.around)
            if unit.around and unit.around[-1].name == "ol":
                items = sum(isinstance(node, Element) and node.name == "li" for node in unit.holds)
                self.counted[unit.around[-1].key] = self.counted.get(unit.around[-1].key, 0) + items
        return typed

    def _typed(self, units: list[Unit]) -> str:
        """Return units as one paste: what is around them opened and closed."""
        parts = [self.front]
        open_now: list[Element] = []
        for unit in units:
            shared = _shared(tuple(open_now), unit.around)
            parts += [f"</{each.name}>" for each in reversed(open_now[shared:])]
            parts += [self._start(each) for each in unit.around[shared:]]
            open_now = list(unit.around)
            parts.append(self.text[unit.span.start : unit.span.end])
        parts += [f"</{each.name}>" for each in reversed(open_now)]
        return "".join(parts).strip() + "\n"

    def _start(self, element: Element) -> str:
        """Return an element's start tag; the second time without its identifier, going on with its numbers."""
        span = self.map.span(element)
        assert span is not None
        if element.key not in self.opened:
            return self.text[span.start : span.end]
        splices = list(self.draft.without_attribute(element, "id"))
        if element.name == "ol" and (count := self.counted.get(element.key, 0)):
            first = re.match(r"-?\d+", element.attributes.get("start", "").strip())
            splices += self.draft.with_attributes(element, start=str((int(first[0]) if first else 1) + count))
        moved = [Splice(Span(s.span.start - span.start, s.span.end - span.start), s.text) for s in splices]
        return Spliced(self.text[span.start : span.end], moved).text + self._header(element)

    def _header(self, element: Element) -> str:
        """Return the columns and the header row of a table, for its next paste."""
        if element.name != "table":
            return ""
        heads = [c for c in element.children if isinstance(c, Element) and c.name in ("colgroup", "thead")]
        spans = [self.map.outer_span(each) for each in heads]
        return "".join(self.text[span.start : span.end] for span in spans if span is not None)


def _shared(ones: tuple[Element, ...], others: tuple[Element, ...]) -> int:
    """Return how many elements two ways have in common from the outermost on."""
    pairs = zip(ones, others, strict=False)
    return next((at for at, (one, other) in enumerate(pairs) if one is not other), min(len(ones), len(others)))


def _without_waiting(held: list[Unit]) -> int:
    """Return how many of the units may end a paste: those at the end that stay with what follows go there."""
    count = len(held)
    while count > 1 and all(map(_waits, held[count - 1].holds)):
        count -= 1
    return count


def _waits(node: Node) -> bool:
    """Tell whether something stays with what follows: headings, comments, white space, header rows."""
    if isinstance(node, Element):
        return node.name in _WITH_NEXT
    return isinstance(node, Comment) or not getattr(node, "data", "").strip()
