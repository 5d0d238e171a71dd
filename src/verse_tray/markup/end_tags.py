"""Where elements end, and which tags ended up in no tree: worked out when somebody asks.

The parser tells neither. Tree and tokens are walked side by side: when everything inside an element has been passed,
the next end tag either bears its name, or belongs to an element around it (then this one's was left out), or closes
nothing at all.
"""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from verse_tray.markup.names import FORMATTING, fold_name
from verse_tray.markup.places import Places
from verse_tray.markup.tokens import Kind, Token
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.spans import Span


class ReadingNote(Struct, frozen=True):
    """Something that reading left out or could not tell."""

    kind: Literal["too-deep", "too-many-attributes", "formatting-pile", "tag-ignored", "tag-unfinished", "no-positions"]
    """Which of them."""
    span: Span | None
    """Where, or None for the text as a whole."""


_ENDED_BY_FORM = frozenset("dd dt li optgroup option p rb rp rt rtc".split())
"""Elements whose end the end tag of a form implies."""


class EndTags(Struct, frozen=True):
    """The answer of :func:`place_end_tags`."""

    spans: dict[int, Span]
    """Place of each end tag, by the key of its element."""
    placed: frozenset[int]
    """Numbers of the tags that the tree shows."""


def place_end_tags(tree: Tree, places: Places, tokens: list[Token], text: str) -> EndTags:
    """Find the end tag of every element of a tree that has not been edited yet."""
    walk = _Walk(places, tokens, text)
    stack: list[Node | tuple[Element, str]] = [*reversed(tree.root.children)]
    while stack:
        node = stack.pop()
        if type(node) is tuple:
            walk.leave(*node)
            continue
        assert isinstance(node, Node)
        walk.pass_by(node)
        if type(node) is Element:
            stack.append((node, walk.enter(node)))
            if node.children:
                stack.extend(node.children[::-1])
    return EndTags(walk.spans, frozenset(walk.placed))


class _Walk:
    """A walk along the tokens, beside one through the tree."""

    def __init__(self, places: Places, tokens: list[Token], text: str) -> None:
        self.spans: dict[int, Span] = {}
        self.placed: set[int] = set()
        self._places = places
        self._tokens = tokens
        self._text = text
        self._numbers = {token[1]: number for number, token in enumerate(tokens)}
        self._shown = places.starts if places.exactness == "exact" else self._numbers.keys()
        self._open: dict[str, int] = {}
        self._forms: dict[int, Element] = {}  # those that are open, by key
        self._at = 0  # number of the first token behind the last one passed

    def pass_by(self, node: Node) -> None:
        """Go on to behind the start tag of an element, or behind another node."""
        start = self._places.start(node.key)
        if start >= 0:
            number = self._numbers[start]
            if number in self.placed:  # formatting that browsers make anew where its element ended too soon
                return
            self.placed.add(number)
            stop = self._places.end(node.key)
            while self._tokens[number][2] < stop and number + 1 < len(self._tokens):  # several that flowed together
                number += 1
            self._at = number + 1

    def enter(self, element: Element) -> str:
        """Note that an element is open, and return the name by which its end tag calls it."""
        name = fold_name(element.name)
        if name == "form":
            self._forms[element.key] = element
        self._open[name] = self._open.get(name, 0) + 1
        return name

    def leave(self, element: Element, name: str) -> None:
        """Find the end tag of an element of which everything has been passed."""
        self._open[name] -= 1
        if name == "form" and element.key not in self._forms:  # its end tag was passed
            return
        number = self._at
        while number < len(self._tokens):
            kind, start, end, ended, _ = self._tokens[number]
            if kind is not Kind.END:
                if kind is Kind.TEXT and number not in self.placed:
                    if number > self._at or self._text[start:end].isspace():  # between end tags, elsewhere in the tree
                        number += 1
                        continue
                if kind is Kind.START and start not in self._shown:  # what browsers drop, such as a form in a form
                    number += 1
                    self._at = number  # for good: there may be very many of them
                    continue
                return
            if ended == name:
                self._forms.pop(element.key, None)
                self._end(element, number)
                return
            if ended == "form" and self._form_before(start) and name not in _ENDED_BY_FORM:
                self._end(self._forms.popitem()[1], number)  # what is open in it stays open (HTML standard, 13.2.6.4.7)
            elif self._open.get(ended):
                return
            number += 1
            self._at = number  # an end tag that closes nothing, or not this: pass it

    def _form_before(self, offset: int) -> bool:
        """Tell whether the innermost open form began before a place; a table may put one before it."""
        key = next(reversed(self._forms), None)
        return key is not None and self._places.start(key) < offset

    def _end(self, element: Element, number: int) -> None:
        _, start, end, _, _ = self._tokens[number]
        if self._places.start(element.key) >= 0:
            self.spans[element.key] = Span(start, end)
        self.placed.add(number)
        self._at = number + 1


def ignored_tags(
    tokens: list[Token], placed: frozenset[int], left_out: frozenset[int], *, marked_all: bool
) -> list[ReadingNote]:
    """Return a note for each tag that the tokenizer or the tree construction threw away.

    Args:
        tokens: All tokens.
        placed: Numbers of those that the tree shows.
        left_out: Numbers of those that the parser never saw.
        marked_all: Whether formatting tags could be told apart; of those that could not, nothing is said.
    """
    notes = []
    for number, (kind, start, end, name, _) in enumerate(tokens):
        if kind is Kind.DROPPED or kind is Kind.UNFINISHED:
            notes.append(ReadingNote("tag-ignored" if kind is Kind.DROPPED else "tag-unfinished", Span(start, end)))
        elif (kind is Kind.START or kind is Kind.END) and number not in placed and number not in left_out:
            if marked_all or name not in FORMATTING:
                notes.append(ReadingNote("tag-ignored", Span(start, end)))
    return notes
