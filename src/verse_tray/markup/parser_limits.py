"""Limits of reading, applied before the parser sees the text: its time is quadratic in what they bound.

Depth is worked out from the tags alone, with the rules of the tree construction stage for elements that end without
an end tag, for scopes, and for formatting elements that outlive their parent.
"""

from __future__ import annotations

from typing import Literal

from verse_tray.markup.names import FORMATTING, MARKERS, SCOPE, SPECIAL, TABLE_PARTS, TABLE_SCOPE, VOID
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span

DEEPEST = 512
"""Most elements inside one another; browsers stop there too."""
MOST_ATTRIBUTES = 2_000
"""Most attributes in one tag."""
MOST_FORMATTING = 48
"""Most formatting elements (``b``, ``i``, ``font`` …) open at once: each is made anew in every paragraph after it."""
MOST_ANEW = 50_000
"""Most formatting elements made anew."""
_ALIKE = 3  # of one start tag, so many are made anew (13.2.4.3, the "Noah's Ark clause")

CapKind = Literal["too-deep", "too-many-attributes", "formatting-pile"]

_FORMATTING_START = lazy(rf"<(?:{'|'.join(sorted(FORMATTING))})[\t\n\f\r />]")
_LIKE_FORMATTING = lazy(f"<[{''.join(sorted({n[0] + n[0].upper() for n in FORMATTING}))}]")
_ATTRIBUTE_START = lazy(r"(?<=[\t\n\f\r /\"'])[^\t\n\f\r />]")
_ENDS_PARAGRAPH = (
    SPECIAL
    - SCOPE
    - frozenset("button body head iframe noembed noframes noscript script style textarea title tr".split())
) | frozenset(("address", "div", "p", "table"))
_ENDED_BY: dict[str, tuple[frozenset[str], frozenset[str]]] = {
    "li": (frozenset(("li",)), SPECIAL),
    **dict.fromkeys(("dd", "dt"), (frozenset(("dd", "dt")), SPECIAL)),
    **dict.fromkeys(("td", "th"), (frozenset(("td", "th")), TABLE_SCOPE)),
    "tr": (frozenset(("tr",)), TABLE_SCOPE),
    **dict.fromkeys(("tbody", "thead", "tfoot"), (frozenset(("tbody", "thead", "tfoot")), TABLE_SCOPE)),
    **dict.fromkeys(("option", "optgroup"), (frozenset(("option",)), SPECIAL)),
    **dict.fromkeys(("rb", "rt", "rp"), (frozenset(("rb", "rt", "rp")), SPECIAL | {"ruby"})),
}
_PARAGRAPH = frozenset(("p",))
_BUTTON_SCOPE = SCOPE | {"button"}


def piles_up(tokens: list[Token]) -> bool:
    """Tell whether more formatting elements may be open at once than :data:`MOST_FORMATTING`."""
    count = 0
    for token in tokens:
        if token.name in FORMATTING:
            if token.kind is Kind.START:
                count += 1
                if count > MOST_FORMATTING:
                    return True
            elif token.kind is Kind.END and count:
                count -= 1
    return False


def may_exceed(text: str) -> bool:
    """Tell whether a limit could be reached at all: a cheap look that spares small pieces the exact one.

    It counts what a tag, a formatting tag and an attribute cannot do without, wherever that stands.
    """
    if text.count("<") > DEEPEST:
        return True
    if sum(map(text.count, " \n\t\r\f/\"'")) > MOST_ATTRIBUTES:
        return True
    return len(_LIKE_FORMATTING.findall(text)) > MOST_FORMATTING < len(_FORMATTING_START.findall(text.lower()))


def apply(text: str, tokens: list[Token]) -> tuple[frozenset[int], list[tuple[CapKind, Span]]]:
    """Return the numbers of the tokens that the parser is not to see, and a note for the first of each kind."""
    left_out: set[int] = set()
    notes: dict[CapKind, Span] = {}
    _OpenElements(text, left_out, notes).read(tokens)
    for number, token in enumerate(tokens):
        if token.end - token.start > 2 * MOST_ATTRIBUTES and token.kind is Kind.START:
            if sum(1 for _ in _ATTRIBUTE_START.finditer(text, token.start, token.end)) > MOST_ATTRIBUTES:
                left_out.add(number)
                notes.setdefault("too-many-attributes", Span(token.start, token.end))
    return frozenset(left_out), list(notes.items())


class _OpenElements:
    """The stack of open elements and the list of active formatting elements, as far as their length matters."""

    def __init__(self, text: str, left_out: set[int], notes: dict[CapKind, Span]) -> None:
        self.text = text
        self.left_out = left_out
        self.notes = notes
        self.stack: list[tuple[str, int]] = []  # name, formatting elements that were active when it opened
        self.open_count: dict[str, int] = {}
        self.active: list[tuple[str, str]] = []  # name, start tag
        self.anew: dict[str, int] = {}  # of the active ones by name, those that are made anew where they are not open
        self.alike: dict[str, int] = {}  # active ones by start tag
        self.outside: list[tuple[int, dict[str, int], dict[str, int]]] = []  # behind each open marker
        self.made = 0
        self.due = False
        self.skipped: dict[str, int] = {}

    def read(self, tokens: list[Token]) -> None:
        START, END, TEXT = Kind.START, Kind.END, Kind.TEXT
        for number, (kind, start, end, name, _) in enumerate(tokens):
            if kind is START:
                if name not in VOID:
                    self._open(number, Span(start, end), name)
            elif kind is END:
                self._end(number, name)
            elif kind is TEXT and self.due and not self.text[start:end].isspace():
                self._make_anew()

    def _open(self, number: int, span: Span, name: str) -> None:
        if name in _ENDS_PARAGRAPH and self.open_count.get("p"):
            self._pop_to(_PARAGRAPH, _BUTTON_SCOPE)
        if name in _ENDED_BY:
            self._pop_to(*_ENDED_BY[name])
        block = name in _ENDS_PARAGRAPH or name in _ENDED_BY
        piles = name in FORMATTING and len(self.active) >= MOST_FORMATTING
        piles = piles or (block and self.made >= MOST_ANEW and self._again() > 0)
        kind: CapKind | None = "too-deep" if len(self.stack) >= DEEPEST else "formatting-pile" if piles else None
        if kind:
            self.left_out.add(number)
            self.notes.setdefault(kind, span)
            self.skipped[name] = self.skipped.get(name, 0) + 1
            return
        if block:
            self.due = bool(self.active)
        elif self.due:
            self._make_anew()
        self.stack.append((name, len(self.active)))
        self.open_count[name] = self.open_count.get(name, 0) + 1
        if name in MARKERS:
            self.outside.append((len(self.active), self.anew, self.alike))
            self.anew, self.alike = {}, {}
        elif name in FORMATTING:
            self._activate(name, self.text[span.start : span.end])

    def _activate(self, name: str, tag: str) -> None:
        self.active.append((name, tag))
        self.alike[tag] = count = self.alike.get(tag, 0) + 1
        self.anew[name] = self.anew.get(name, 0) + (count <= _ALIKE)

    def _forget(self, at: int) -> None:
        name, tag = self.active.pop(at)
        self.anew[name] -= self.alike[tag] <= _ALIKE
        self.alike[tag] -= 1

    def _make_anew(self) -> None:
        self.made += self._again()
        self.due = False

    def _again(self) -> int:
        """Return how many active formatting elements are not open: the next text makes them anew."""
        return sum(max(0, count - self.open_count.get(name, 0)) for name, count in self.anew.items())

    def _end(self, number: int, name: str) -> None:
        if self.skipped.get(name):
            self.skipped[name] -= 1
            self.left_out.add(number)
        elif name in FORMATTING:
            first = self.outside[-1][0] if self.outside else 0
            last = next((at for at in range(len(self.active) - 1, first - 1, -1) if self.active[at][0] == name), None)
            if last is not None:
                self._forget(last)
            for index in range(len(self.stack) - 1, -1, -1) if self.open_count.get(name) else ():
                # what stands inside it stays open
                if self.stack[index][0] == name:
                    del self.stack[index]
                    self.open_count[name] -= 1
                    break
        elif self.open_count.get(name):
            self._pop_to(frozenset((name,)), TABLE_SCOPE if name in TABLE_PARTS else SCOPE)

    def _pop_to(self, targets: frozenset[str], stops: frozenset[str]) -> None:
        """Close the innermost open target, and what stands inside it, unless an element of ``stops`` is met first."""
        if not any(self.open_count.get(name) for name in targets):
            return
        for index in range(len(self.stack) - 1, -1, -1):
            name = self.stack[index][0]
            if name in targets:
                for inner, active in reversed(self.stack[index:]):
                    self.open_count[inner] -= 1
                    if inner in MARKERS:
                        del self.active[active:]
                        _, self.anew, self.alike = self.outside.pop()
                del self.stack[index:]
                return
            if name in stops:
                return
