"""Marks that carry token numbers through the parser, and their removal.

A start tag gets a marker attribute, a comment and a run of text a marker at their front. The signs are
noncharacters: valid code points that the parser hands through, that are no white space and that no author uses.
A mark in a run of text stands before the first sign that is neither white space nor NUL, where one more sign of
that sort changes nothing in the tree construction stage: the sign that follows would have done the same.
"""

from __future__ import annotations

from verse_tray.markup.names import FORMATTING
from verse_tray.markup.tokens import Kind, Token
from verse_tray.model.patterns import lazy

ATTRIBUTE = "\ufdd0"
OPEN, CLOSE = "\ufdd1", "\ufdd2"
_OWN_SIGNS = lazy("[\ufdd0-\ufdd2]")
_IN_SERIALISATION = lazy(f' {ATTRIBUTE}="[0-9]*"|{OPEN}[0-9]+{CLOSE}')
TEXT_MARK = lazy(f"{OPEN}([0-9]+){CLOSE}")
_PIECES = 10_000
_SOLID = lazy(r"[^\t\n\f\r \0]")
_WHITE_REFERENCE = lazy(r"&(?:#0*(?:9|1[023]|32)(?![0-9])|#[xX]0*(?:[9aAcCdD]|20)(?![0-9A-Fa-f])|Tab;|NewLine;);?")


def can_mark(serialised: str) -> bool:
    """Tell whether a text is free of the signs that marks are made of."""
    return _OWN_SIGNS.search(serialised) is None


def mark(text: str, tokens: list[Token], left_out: frozenset[int], *, formatting: bool) -> str:
    """Return ``text`` with the number of each token written into it.

    Args:
        text: The source.
        tokens: Its tokens.
        left_out: Numbers of the tokens that the parser is not to see at all.
        formatting: Whether formatting elements get marks. The parser compares their attributes (13.2.4.3), so marks
            on them can change the tree.
    """
    whole, pieces = list[str](), list[str]()
    add = pieces.append
    at = 0
    START, TEXT, CDATA, COMMENT = Kind.START, Kind.TEXT, Kind.CDATA, Kind.COMMENT
    for number, (kind, start, end, name, raw) in enumerate(tokens):
        if not number % _PIECES:  # small texts take more room than what they say
            whole.append("".join(pieces))
            pieces.clear()
        if left_out and number in left_out:
            add(text[at:start])
            at = end
        elif kind is START:
            if formatting or name not in FORMATTING:
                cut = start + 1 + len(name)
                add(f'{text[at:cut]} {ATTRIBUTE}="{number}"')
                at = cut
        elif kind is TEXT or kind is CDATA:
            solid = _solid_at(text, start, end, raw)
            if solid < end:
                add(f"{text[at:solid]}{OPEN}{number}{CLOSE}")
                at = solid
        elif kind is COMMENT:
            dashes = text.startswith("<!--", start)
            cut = start + (4 if dashes else 2)
            if not (dashes and end - start < 7 and text[end - 1] == ">"):  # "<!-->" ends where a mark would stand
                add(f"{text[at:cut]}{OPEN}{number}{CLOSE}")
                at = cut
    return "".join([*whole, *pieces, text[at:]])


def first_solid(text: str, token: Token) -> int:
    """Return the offset of a run's first sign that is neither white space nor NUL; its end when there is none."""
    return _solid_at(text, token.start, token.end, token.raw)


def _solid_at(text: str, start: int, end: int, raw: bool) -> int:
    while solid := _SOLID.search(text, start, end):
        white = None if raw or solid.group() != "&" else _WHITE_REFERENCE.match(text, solid.start(), end)
        if white is None:
            return solid.start()
        start = white.end()
    return end


def unmark(serialised: str) -> str:
    """Take every mark out of a serialisation."""
    return _IN_SERIALISATION.sub("", serialised)


def without(text: str, tokens: list[Token], left_out: frozenset[int]) -> str:
    """Return ``text`` without the tokens that the parser is not to see."""
    if not left_out:
        return text
    pieces, at = [], 0
    for number in sorted(left_out):
        pieces.append(text[at : tokens[number].start])
        at = tokens[number].end
    pieces.append(text[at:])
    return "".join(pieces)
