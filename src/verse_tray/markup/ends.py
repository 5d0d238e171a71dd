"""Where elements end, and which tags ended up in no tree: worked out when somebody asks.

The parser tells neither. Tree and tokens are walked side by side: when everything inside an element has been passed,
the next end tag either bears its name, or belongs to an element around it (then this one's was left out), or closes
nothing at all.
"""

from __future__ import annotations

from typing import Literal, NamedTuple

from verse_tray.markup.names import FORMATTING
from verse_tray.markup.scan import Kind, Token
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.model.spans import Span


class ReadingNote(NamedTuple):
    """Something that reading left out or could not tell."""

    kind: Literal["too-deep", "too-many-attributes", "formatting-pile", "tag-ignored", "tag-unfinished", "no-positions"]
    """Which of them."""
    span: Span | None
    """Where, or None for the text as a whole."""


class EndTags(NamedTuple):
    """The answer of :func:`place_end_tags`."""

    spans: dict[int, Span]
    """Place of each end tag, by the key of its element."""
    ignored: list[ReadingNote]
    """Tags that the tokenizer or the tree construction threw away."""


def place_end_tags(tree: Tree, tokens: list[Token], left_out: frozenset[int]) -> EndTags:
    """Find the end tag of every element of a tree that has not been edited yet."""
    walk = _Walk(tokens)
    stack: list[tuple[Element, int]] = []
    node: Node | None = None
    children, index = tree.root.children, 0
    element = tree.root
    while True:
        if index < len(children):
            node = children[index]
            index += 1
            walk.pass_by(node)
            if type(node) is Element:
                stack.append((element, index))
                element, children, index = node, node.children, 0
                walk.open(node)
            continue
        if not stack:
            break
        walk.close(element)
        element, index = stack.pop()
        children = element.children
    ignored = []
    for number, token in enumerate(tokens):
        if token.kind is Kind.DROPPED:
            ignored.append(ReadingNote("tag-unfinished", Span(token.start, token.end)))
        elif token.kind in (Kind.START, Kind.END) and number not in walk.seen and number not in left_out:
            if tree.positions == "exact" or token.name not in FORMATTING:
                ignored.append(ReadingNote("tag-ignored", Span(token.start, token.end)))
    return EndTags(walk.spans, ignored)


class _Walk:
    def __init__(self, tokens: list[Token]) -> None:
        self.tokens = tokens
        self.numbers = {token.start: number for number, token in enumerate(tokens)}
        self.at = 0
        self.open_names: dict[str, int] = {}
        self.seen: set[int] = set()
        self.spans: dict[int, Span] = {}

    def pass_by(self, node: Node) -> None:
        if node.span is None:
            return
        number = self.numbers[node.span.start]
        self.seen.add(number)
        if type(node) is not Element:  # a run may span several tokens that flowed together
            while number + 1 < len(self.tokens) and self.tokens[number].end < node.span.end:
                number += 1
        self.at = number + 1

    def open(self, element: Element) -> None:
        name = element.name.lower()
        self.open_names[name] = self.open_names.get(name, 0) + 1

    def close(self, element: Element) -> None:
        name = element.name.lower()
        self.open_names[name] -= 1
        at = self.at
        for number in range(at, len(self.tokens)):
            token = self.tokens[number]
            if token.kind is not Kind.END:
                if token.kind is Kind.TEXT and number > at and number not in self.seen:
                    continue  # white space between end tags that came before it in the tree
                return
            if token.name == name:
                if element.span is not None:
                    self.spans[element.key] = Span(token.start, token.end)
                self.seen.add(number)
                self.at = number + 1
                return
            if self.open_names.get(token.name):
                return
            self.at = number + 1  # an end tag that closes nothing: pass it
