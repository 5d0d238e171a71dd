"""Which HTML elements are open around foreign content that lacks its end tag.

An end tag in it may be that of an element around it, which ends both (13.2.6.5). Almost nobody writes that, so what is
open is worked out when it is first asked for.
"""

from __future__ import annotations

from collections import Counter
from itertools import islice

from verse_tray.markup import names
from verse_tray.markup.parser_limits import DEEPEST
from verse_tray.markup.tokens import Kind, Token

_HEADINGS = frozenset(("h1", "h2", "h3", "h4", "h5", "h6"))
_ENDS_ALONE = frozenset(("form", "body", "html"))  # what is in them stays open
_FOREIGN = names.MATHML_TEXT_INTEGRATION | names.SVG_INTEGRATION | {"annotation-xml"}  # of these names, none is HTML's
_SCOPE = names.SCOPE - _FOREIGN
_EVERY_SPECIAL = (names.SPECIAL - _FOREIGN) | {"address", "div", "p", "title"}


_ONLY_IN_TABLES = names.TABLE_PARTS - {"table", "template"}


class OuterElements:
    """The open elements, from the tags alone: those that end without an end tag stay until one around them ends."""

    def __init__(self, tokens: list[Token]) -> None:
        """Take the tokens; more may be added while it is asked."""
        self._tokens = tokens
        self._read = 0
        self._open: list[str] = []
        self._count: Counter[str] = Counter()

    def closes(self, name: str) -> bool:
        """Tell whether the last token, an end tag of that name, ends an element that was open before it."""
        for kind, _, _, each, _ in self._tokens[self._read : -1]:
            if kind is Kind.START:
                self._open_one(each)
            elif kind is Kind.END and self._ends(each):
                while self._close_one() not in _ended_by(each):
                    pass
        self._read = max(self._read, len(self._tokens) - 1)
        return name not in _ENDS_ALONE and self._ends(name)

    def _open_one(self, name: str) -> None:
        if name in names.VOID or (name in _ONLY_IN_TABLES and not self._count["table"]):
            return
        self._open.append(name)
        self._count[name] += 1

    def _close_one(self) -> str:
        name = self._open.pop()
        self._count[name] -= 1
        return name

    def _ends(self, name: str) -> bool:
        """Tell whether an end tag finds its element."""
        ended = _ended_by(name)
        if not any(self._count[each] for each in ended):
            return False
        if name in names.TABLE_PARTS:
            bounds = names.TABLE_SCOPE
        else:
            bounds = _SCOPE if name in _EVERY_SPECIAL or name in names.FORMATTING else _EVERY_SPECIAL
        for each in islice(reversed(self._open), DEEPEST):
            if each in ended:
                return True
            if each in bounds:
                return False
        return False


def _ended_by(name: str) -> frozenset[str]:
    return _HEADINGS if name in _HEADINGS else frozenset((name,))
