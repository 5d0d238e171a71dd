"""Keys for a tree that was parsed again from stored text."""

from __future__ import annotations

from bisect import bisect_left
from itertools import pairwise
from operator import attrgetter

from verse_tray.markup.parse import Parsed, parse_fragment
from verse_tray.markup.places import Places
from verse_tray.markup.references import decode
from verse_tray.markup.serialise import holds_raw_text
from verse_tray.markup.tokens import Kind
from verse_tray.markup.tree import Element, Node, Text, Tree
from verse_tray.piece.source_map import SourceMap

_LONG = 100_000  # signs of a text whose tokens take more room than reading them again takes time


def parse_stored(text: str, starts: dict[int, Node], *, renamed: bool = False) -> tuple[Tree, SourceMap]:
    """Parse stored text and give each node the key of the node that was written there.

    Args:
        text: The stored text.
        starts: The node that begins at an offset of the text before it was cut.
        renamed: Whether nodes may have been renamed since they were written there.

    Returns:
        The tree, and the text with the places of its nodes.
    """
    parsed = parse_fragment(text, bounded=True)
    tree, places = parsed.take_tree(), parsed.places
    for node in tree.nodes():
        node.number = node.key
    runs = _Runs(parsed, starts)
    for parent in [tree.root, *tree.elements()]:
        if not parent.children:
            continue
        children: list[Node] = []
        raw = holds_raw_text(parent)
        for node in parent.children:
            if type(node) is Text:
                parts = runs.texts(node, raw)
                parts[0].number = node.number if len(parts) == 1 else 0
                children += parts
            else:
                _take_over(node, places, starts, renamed=renamed)
                children.append(node)
        parent.children = children[:]  # just as long as it has to be, and not as it has grown
    if len(text) > _LONG:
        parsed.forget_tokens()
    return Tree(tree.root), SourceMap(parsed, attrgetter("number"))


def _take_over(node: Node, places: Places, starts: dict[int, Node], *, renamed: bool) -> None:
    """Give a node the key of the node of its kind and name that was written where it stands."""
    span = places.span(node.key)
    origin = starts.get(span.start) if span else None
    same = type(origin) is type(node) and (renamed or getattr(origin, "name", "") == getattr(node, "name", ""))
    node.key = origin.key if origin is not None and same else 0
    if type(node) is Element and type(origin) is Element:
        node.edited = origin.edited


class _Runs:
    """The runs of text in a stored text, and the texts that were written there."""

    def __init__(self, parsed: Parsed, starts: dict[int, Node]) -> None:
        self._parsed = parsed
        self._starts = starts
        self._offsets = sorted(at for at, node in starts.items() if type(node) is Text)
        self._tokens = [token for token in parsed.tokens if token.kind is Kind.TEXT]
        self._begins = [token.start for token in self._tokens]

    def texts(self, text: Text, raw: bool) -> list[Text]:
        """Return a text, or its parts where texts that had been neighbours flowed together, each with its own key.

        They do so when what stood between them went, and around tags that browsers ignore or move away.
        """
        span = self._parsed.places.span(text.key)
        text.key = 0
        if span is None:
            return [text]
        inside = self._offsets[bisect_left(self._offsets, span.start) : bisect_left(self._offsets, span.end)]
        if inside == [span.start]:
            _take_over_text(text, self._starts[span.start])
            return [text]
        parts: list[Text] = []
        for token in self._tokens[bisect_left(self._begins, span.start) : bisect_left(self._begins, span.end)]:
            cuts = {token.start, token.end, *(at for at in inside if token.start < at < token.end)}
            for first, last in pairwise(sorted(cuts)):
                typed = self._parsed.text[first:last]
                part = Text(typed if raw else decode(typed, attribute=False)[0].replace("\0", ""))
                known = self._starts.get(first)
                if known is not None:
                    _take_over_text(part, known)
                parts.append(part)
        return parts if parts and "".join(part.data for part in parts) == text.data else [text]


def _take_over_text(text: Text, origin: Node) -> None:
    if type(origin) is Text:
        text.key = origin.key
        if origin.data == text.data:
            text.means = origin.means
