"""What became of each element and attribute, told by where its words stand afterwards."""

from __future__ import annotations

import re
from collections import defaultdict
from typing import Literal, NamedTuple

from verse_tray.learning.facts.cells import Cell, Chain, read_cells, words_in
from verse_tray.learning.probe.probe import cut
from verse_tray.markup.names import HTML, SERIALISED_AS_VOID
from verse_tray.markup.tree import Element, Text

Kind = Literal["keep", "rename", "unwrap", "escape", "drop", "empty"]
_OPAQUE = frozenset(
    "iframe style script textarea template noscript object embed select svg video audio canvas colgroup map".split()
)
"""Elements whose being empty tells nothing."""
_TABLE_PARTS = frozenset("caption colgroup col thead tbody tfoot tr th td".split())
"""Elements that parsing adds and takes away, so that the text decides."""


class Fate(NamedTuple):
    """What became of one element."""

    kind: Kind
    sent: Element
    got: Element | None
    """What stands in its place; None where nothing does."""
    cell: int
    """The number of its cell."""
    text: int
    """The number of the text that it was sent in."""


class Kept(NamedTuple):
    """What became of one attribute of an element that is still there."""

    sent: str
    got: str | None
    of: Fate


class Facts:
    """What became of everything that was sent."""

    def __init__(self) -> None:
        self.elements: dict[tuple[str, str], list[Fate]] = defaultdict(list)
        """By namespace and name, in the order in which they were sent; those without contents apart."""
        self.empties: dict[str, list[Fate]] = defaultdict(list)
        """Those without contents, by name."""
        self.attributes: dict[tuple[str, str], list[Kept]] = defaultdict(list)
        """By element and attribute."""
        self.given: dict[tuple[str, str], list[Kept]] = defaultdict(list)
        """Attributes that nobody sent, by element and attribute."""
        self.gone_with: dict[tuple[str, str], list[Kept]] = defaultdict(list)
        """Addresses of elements that are not there any more, by element and attribute."""
        self.comments: list[Kind] = []
        self.renamed: dict[str, str] = {}
        """New names by the old ones."""
        self.pairs: list[tuple[str, str]] = []
        """Texts that were sent, and what came back."""
        self.styles_in_front = False
        """Whether style elements came back in front of everything."""

    def observe(self, sent: str, got: str) -> None:
        """Read off what became of everything in a text of cells."""
        text = len(self.pairs)
        self.pairs.append((sent, got))
        asked, answered, written = read_cells(sent), read_cells(got), cut(got)
        self.styles_in_front |= bool(_names(answered[-1], "style")) and not _names(asked[-1], "style")
        in_front = _names(answered[-1], "style")
        sent_styles = [element for cell in asked.values() for element in _names(cell, "style")]
        for was, now in zip(sent_styles, in_front, strict=False):
            fate = Fate("keep", was, now, -1, text)
            self.elements[HTML, "style"].append(fate)
            for name, value in was.attributes.items():
                self.attributes["style", name].append(Kept(value, now.attributes.get(name), fate))
        for number, cell in asked.items():
            if number >= 0 and (answer := answered.get(number)) is not None:
                _Cell(self, cell, answer, written.get(number, ""), (number, text)).observe()

    def first(self, name: str, namespace: str = HTML) -> Kind | None:
        """Return what becomes of an element in its plainest case: the first that was sent with attributes."""
        fates = self.elements.get((namespace, name), [])
        return next((fate.kind for fate in fates if fate.sent.attributes), fates[0].kind if fates else None)


def _names(cell: Cell, name: str) -> list[Element]:
    """Return the elements of a name in a cell."""
    return [element for element, _ in cell.elements if element.name == name]


class _Cell:
    """One cell before and after."""

    def __init__(self, facts: Facts, sent: Cell, got: Cell, written: str, where: tuple[int, int]) -> None:
        self.facts = facts
        self.sent = sent
        self.got = got
        self.written = written
        self.where = where
        self.used: set[int] = set()
        self.fates: dict[int, Kind | None] = {}
        """By the ``id`` of what was sent; None where nothing can be said."""

    def observe(self) -> None:
        facts = self.facts
        own = {id(element) for element, _ in self.sent.elements}
        for element, chain in self.sent.elements:
            if element.name == "style" and self.facts.styles_in_front:
                continue  # it stands in front of all
            kind, got = self._fate(element, [each for each in chain if id(each) in own])
            if element.name in _TABLE_PARTS and element.namespace == HTML:
                kind, got = self._in_text(element, kind, got, chain)
            self.fates[id(element)] = kind
            if kind is not None:
                self._note(Fate(kind, element, got, *self.where))
        if self.sent.comments:
            escaped = "<!--" in self.got.text
            facts.comments.append("keep" if self.got.comments else "escape" if escaped else "drop")

    def _note(self, fate: Fate) -> None:
        facts, element, got = self.facts, fate.sent, fate.got
        if element.namespace == HTML and not words_in(element) and element.name not in SERIALISED_AS_VOID | _OPAQUE:
            facts.empties[element.name].append(fate)
            return
        facts.elements[element.namespace, element.name].append(fate)
        if fate.kind == "rename" and got is not None:
            facts.renamed[element.name] = got.name
        if got is None:
            for name in ("href", "src"):
                if name in element.attributes:
                    facts.gone_with[element.name, name].append(Kept(element.attributes[name], None, fate))
            return
        for name, value in element.attributes.items():
            facts.attributes[element.name, name].append(Kept(value, got.attributes.get(name), fate))
        for name, value in got.attributes.items():
            if name not in element.attributes:
                facts.given[element.name, name].append(Kept("", value, fate))

    def _fate(self, element: Element, around: list[Element]) -> tuple[Kind | None, Element | None]:
        words = words_in(element)
        seen = [word for word in words if word in self.got.words]
        if seen:
            return self._by_words(element, words, seen[0], around)
        same = self._candidates(element)
        if same:
            self.used.add(id(same[0]))
            lost = any(type(child) is Text and child.data.strip() for child in element.children)
            return ("empty" if lost else "keep"), same[0]
        if f"<{element.name}" in self.got.text:
            return "escape", None
        if around and self.fates.get(id(around[-1])) in ("drop", "empty", None):
            return None, None
        return "drop", None

    def _by_words(
        self, element: Element, words: list[str], word: str, around: list[Element]
    ) -> tuple[Kind, Element | None]:
        same = [
            each
            for seen in words
            for each in self.got.own(self.got.words.get(seen, ()))
            if (each.name, each.namespace) == (element.name, element.namespace)
        ]
        if same:
            return "keep", same[-1 if around and around[-1].name != element.name else 0]
        if f"<{element.name}" in self.got.text:
            return "escape", None
        there = self.got.own(self.got.words[word])
        usual = [
            each for each in there if each.name == self.facts.renamed.get(element.name) and id(each) not in self.used
        ]
        if usual:
            self.used.add(id(usual[0]))
            return "rename", usual[0]
        known = {each.name for each, _ in self.sent.elements}
        known |= {self.facts.renamed[each] for each in known & self.facts.renamed.keys()}
        new = [
            each
            for each in there
            if each.name not in known and id(each) not in self.used and each.namespace == element.namespace
        ]
        if new and word in words_in(element, deep=False):
            self.used.add(id(new[-1]))
            return "rename", new[-1]
        return "unwrap", None

    def _candidates(self, element: Element) -> list[Element]:
        """Return what may be this element, which has no words: of several pictures, addresses tell which."""
        names = (element.name, self.facts.renamed.get(element.name))
        found = [
            each
            for each, _ in self.got.elements
            if each.name in names and each.namespace == element.namespace and id(each) not in self.used
        ]
        if "src" in element.attributes:
            mine = element.attributes["src"]
            others = {each.attributes.get("src") for each, _ in self.sent.elements} - {mine}
            found = [each for each in found if each.attributes.get("src") not in others]
            found.sort(key=lambda each: each.attributes.get("src") != mine)
        return found

    def _in_text(
        self, element: Element, kind: Kind | None, got: Element | None, chain: Chain
    ) -> tuple[Kind | None, Element | None]:
        """Decide on a part of a table by the text, as parsing adds and takes away such tags."""
        tag = re.search(rf"<{element.name}\b([^>]*)>", self.written)
        if tag and kind != "keep":
            return "keep", read_cells(f"<i{tag[1].rstrip('/')}>w1</i>")[-1].elements[0][0]
        if not tag and kind == "keep":
            if any(word in self.got.words for word in words_in(element)):
                return "unwrap", None
            return ("drop", None) if chain and self.fates.get(id(chain[-1])) == "keep" else (None, None)
        return kind, got
