"""Syntax trees of scripts (ECMAScript), with offsets in the text."""

from __future__ import annotations

from bisect import bisect_right
from functools import cache
from itertools import accumulate
from typing import TYPE_CHECKING

from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

if TYPE_CHECKING:
    from tree_sitter import Language, Node, Query

LONGEST = 1_000_000
"""Signs of the longest script that is read."""


_MOST_OPEN = 200
_DEEPEST = 1_000


def is_readable(text: str) -> bool:
    """Tell whether a script is neither too long nor too deeply nested to be read."""
    if len(text) > LONGEST:
        return False
    depth = 0
    for sign in _BRACKETS.findall(text):
        depth += 1 if sign in "([{" else -1
        if depth > _DEEPEST:
            return False
    return True


_BRACKETS = lazy(r"[(){}\[\]]")


class ScriptTree:
    """The syntax tree of a script; where the script is faulty, of what can be read."""

    def __init__(self, text: str) -> None:
        from tree_sitter import Parser

        self._data = text.encode("utf-8", "replace")
        self.root: Node = Parser(_language()).parse(self._data).root_node
        """Its root."""
        self._starts: list[int] | None = None  # offsets in bytes at which each sign begins, where they are not the same
        if len(self._data) != len(text):
            self._starts = [0, *accumulate(len(sign.encode("utf-8", "replace")) for sign in text)]

    def span(self, node: Node) -> Span:
        """Return the place of a node in the text."""
        return Span(self._offset(node.start_byte), self._offset(node.end_byte))

    def _offset(self, at: int) -> int:
        return at if self._starts is None else bisect_right(self._starts, at) - 1

    def at(self, span: Span) -> Node:
        """Return the smallest node that holds a place of the text."""
        starts = range(len(self._data) + 1) if self._starts is None else self._starts
        found = self.root.descendant_for_byte_range(starts[span.start], starts[span.end])
        return self.root if found is None else found

    def typed(self, node: Node) -> str:
        """Return what a node stands for, as typed."""
        return self._data[node.start_byte : node.end_byte].decode("utf-8", "replace")

    def matches(self, query: str) -> list[dict[str, list[Node]]]:
        """Return the captures of each match of a query."""
        from tree_sitter import QueryCursor

        cursor = QueryCursor(_query(query), match_limit=_MOST_OPEN)  # of a chain of calls each is open until the last
        return [captures for _, captures in cursor.matches(self.root)]


@cache
def _language() -> Language:
    import tree_sitter_javascript
    from tree_sitter import Language

    return Language(tree_sitter_javascript.language())


@cache
def _query(text: str) -> Query:
    from tree_sitter import Query

    return Query(_language(), text)
