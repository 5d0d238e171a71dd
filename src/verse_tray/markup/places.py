"""Where the nodes of a tree stand in the source.

The parser tells no positions, so the source is parsed a second time with marks in it
(:mod:`verse_tray.markup.numbering`), and the numbers are read back in the order in which the tree was numbered.
"""

from __future__ import annotations

from typing import Literal

from selectolax.lexbor import LexborHTMLParser, LexborNode

from verse_tray.markup.from_parser import first_child, first_node
from verse_tray.markup.numbering import ATTRIBUTE, CLOSE, OPEN, TEXT_MARK, first_solid
from verse_tray.markup.references import decode
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.spans import Span


class Places:
    """Places by key. The first key is 1."""

    __slots__ = ("_ends", "_spans", "_starts", "exactness")

    def __init__(self, starts: list[int], ends: list[int], exactness: Literal["exact", "partial", "none"]) -> None:
        self._starts = starts
        self._ends = ends
        self._spans: list[Span | None] | None = None
        self.exactness = exactness
        """Whether every node that stands in the source has its place."""

    def __len__(self) -> int:
        return len(self._starts)

    @property
    def starts(self) -> frozenset[int]:
        """Offsets at which a node's start tag, text or comment begins."""
        return frozenset(self._starts)

    def start(self, key: int) -> int:
        """Return the offset of a node's start tag, text or comment; -1 when it has no place."""
        return self._starts[key - 1] if 0 < key <= len(self._starts) else -1

    def end(self, key: int) -> int:
        """Return the offset behind a node's start tag, text or comment; -1 when it has no place."""
        return self._ends[key - 1] if 0 < key <= len(self._ends) else -1

    def span(self, key: int) -> Span | None:
        """Return the place of a node's start tag, text or comment; None when it has none."""
        spans = self._spans
        if spans is None:  # each is asked for many times; the first is that of key 0, which has none
            pairs = zip(self._starts, self._ends, strict=True)
            spans = self._spans = [None, *(None if start < 0 else Span(start, end) for start, end in pairs)]
        return spans[key] if 0 < key < len(spans) else None


def read_places(
    parser: LexborHTMLParser, text: str, tokens: list[Token], exactness: Literal["exact", "partial"], *, document: bool
) -> Places:
    """Read the marks of a marked text's tree.

    Args:
        parser: A parser that has read the marked text.
        text: The source, without marks.
        tokens: The tokens that the marks' numbers speak of.
        exactness: Whether all tags were marked.
        document: Whether a whole document was parsed.
    """
    reader = _Reader(text, tokens)
    starts: list[int] = []
    ends: list[int] = []
    stack: list[LexborNode | None] = []
    node = first_node(parser, document=document)
    while True:
        while node is None:
            if not stack:
                return Places(starts, ends, exactness)
            node = stack.pop()
        start = end = -1
        if node.is_text_node:
            start, end = reader.text(node.text_content or "")
        elif node.is_element_node:
            mark = node.attributes.get(ATTRIBUTE)
            if mark is not None:
                number = int(mark)
                _, start, end, _, _ = tokens[number]
                reader.at = number + 1
        else:
            start, end = reader.comment(node)
        starts.append(start)
        ends.append(end)
        if node.is_element_node:
            child = first_child(node, node.tag or "")
            if child is not None:
                stack.append(node.next)
                node = child
                continue
        node = node.next


_IGNORABLE = (Kind.START, Kind.END, Kind.DROPPED, Kind.DOCTYPE)


class _Reader:
    """Where texts and comments stand."""

    def __init__(self, source: str, tokens: list[Token]) -> None:
        self.source = source
        self.tokens = tokens
        self.at = 0
        """Number of the first token behind the last one that was placed."""
        self._instructions = [token for token in tokens if token.kind is Kind.INSTRUCTION]
        self._doctypes = [token for token in tokens if token.kind is Kind.DOCTYPE]

    def text(self, data: str) -> tuple[int, int]:
        opened = data.find(OPEN)
        if opened < 0:
            return self._white(data)
        closed = data.find(CLOSE, opened)
        first = last = int(data[opened + 1 : closed])
        front, tail = data[:opened], data[closed + 1 :]
        if OPEN in tail:  # runs that flowed together because a tag between them was ignored or moved away
            numbers = [first, *(int(mark[1]) for mark in TEXT_MARK.finditer(tail))]
            first, last = min(numbers), max(numbers)
            tail = tail[tail.rindex(CLOSE) + 1 :]
        start, end = self.tokens[first].start, self.tokens[last].end
        self.at = last + 1
        if front and len(front) > self._length(self.tokens[first], front, at_front=True):
            start = self._white_before(first, start)
        if len(tail) > self._length(self.tokens[last], tail, at_front=False):
            end = self._white_behind(end)
        return start, end

    def _length(self, token: Token, data: str, *, at_front: bool) -> int:
        """Return how long a run is in the tree, where it is ``data``: before its first solid sign, or from there on."""
        solid = first_solid(self.source, token)
        typed = self.source[token.start : solid] if at_front else self.source[solid : token.end]
        if "\0" in typed:  # null bytes go, or become replacement signs
            kept = max(0, data.count("\ufffd") - typed.count("\ufffd"))
            return self._length_of(token, typed) - max(0, typed.count("\0") - kept)
        return self._length_of(token, typed)

    def _length_of(self, token: Token, typed: str) -> int:
        if token.raw:
            return len(typed) - typed.count("\r\n")
        return len(decode(typed, attribute=False)[0]) if "&" in typed or "\r" in typed else len(typed)

    def _white_before(self, number: int, start: int) -> int:
        """White space of a run before it flowed in: pass the ignored tags between the two."""
        for token in reversed(self.tokens[max(0, number - 16) : number]):
            if token.kind is Kind.TEXT:
                return token.start
            if token.kind not in _IGNORABLE:
                break
        return start

    def _white_behind(self, end: int) -> int:
        for number in range(self.at, min(self.at + 16, len(self.tokens))):
            token = self.tokens[number]
            if token.kind is Kind.TEXT and self.source[token.start : token.end].strip("\0"):
                self.at = number + 1
                return token.end
            if token.kind not in (*_IGNORABLE, Kind.TEXT):
                break
        return end

    def _white(self, data: str) -> tuple[int, int]:
        """White space bears no mark: it is the next run behind what was placed last, if that is the same."""
        tokens = self.tokens
        for number in range(self.at, min(self.at + 16, len(tokens))):
            kind, start, end, _, _ = tokens[number]
            if kind is Kind.TEXT:
                typed = self.source[start:end]
                if typed == data or typed.replace("\r\n", "\n").replace("\r", "\n") == data:
                    self.at = number + 1
                    return start, end
                break
            if kind is not Kind.END:
                break
        return -1, -1

    def comment(self, node: LexborNode) -> tuple[int, int]:
        token = None
        if node.is_comment_node:
            mark = TEXT_MARK.search(node.comment_content or "")
            if mark:
                token = self.tokens[int(mark[1])]
                self.at = int(mark[1]) + 1
        elif node.tag == "-doctype":
            token = self._doctypes.pop(0) if self._doctypes else None
        else:
            token = self._instructions.pop(0) if self._instructions else None
        return (token.start, token.end) if token else (-1, -1)
