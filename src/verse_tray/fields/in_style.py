"""What a mark stands in within a style text (CSS Syntax Level 3)."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterator

from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context
from verse_tray.style.tokens import CssToken, css_tokens

_GLUED = re.compile(r"[\w#%.\\-]")


class StyleText:
    """A style text, with letters in place of its marks."""

    def __init__(self, text: str, *, attribute: bool = False) -> None:
        self._text = text
        self._attribute = attribute
        self._tokens = css_tokens(text)
        self._starts = [token.start for token in self._tokens]
        self._where = list(self._walk())

    def context(self, hole: Span) -> tuple[Context, str]:
        """Return what a mark stands in, and why no value can stand there, if so."""
        at = bisect_right(self._starts, hole.start) - 1
        if at < 0 or self._tokens[at].end < hole.end:
            return Context.NOWHERE, "this place of the style cannot be read"
        token = self._tokens[at]
        if token.kind == "comment":
            return Context.CODE_COMMENT, ""
        if token.kind in ("string", "url"):
            return self._quoted(token, hole)
        if token.kind != "other" or self._text[hole.end : hole.end + 1] == "(":
            return Context.NOWHERE, "the name of a function is written in the piece"
        if self._attribute and not self._text[: hole.start].strip() and ":" not in self._text[hole.end :]:
            return Context.NOWHERE, 'write the name of the property in the piece, such as style="color: {{colour}}"'
        where = self._where[at]
        if where is Context.STYLE and self._is_glued(hole):
            return Context.STYLE_PART, ""
        if where is Context.STYLE_NAME and re.fullmatch(r"[\w-]", self._text[max(hole.start - 1, 0) : hole.start]):
            return Context.STYLE_NAME_PART, ""
        return where, ""

    def _quoted(self, token: CssToken, hole: Span) -> tuple[Context, str]:
        typed = self._text[token.start : token.end]
        closed = typed.endswith(")") if token.kind == "url" else len(typed) > 1 and typed[-1] == typed[0]
        if not closed or (self._text[hole.start - 1] == "\\"):
            return Context.NOWHERE, "this place of the style cannot be read"
        if token.kind == "string":
            return Context.STYLE_STRING, ""
        front = self._text[token.start : hole.start].partition("(")[2].strip().lower()
        if front.startswith(("javascript:", "data:", "vbscript:")):
            return Context.NOWHERE, "what is written into an address is not filled in"
        return Context.STYLE_ADDRESS, ""

    def _is_glued(self, hole: Span) -> bool:
        return any(
            _GLUED.fullmatch(sign) for sign in (self._text[hole.start - 1 : hole.start], self._text[hole.end :][:1])
        )

    def _walk(self) -> Iterator[Context]:
        """Yield for each token whether it is in a declaration's value, in a name, or in the head of an at-rule."""
        opens = self._opening()
        depth, colon, rule, nested = 0, False, False, 0
        for token, leads_to_block in zip(self._tokens, opens, strict=True):
            if rule:
                yield Context.STYLE_PART
            elif colon and (depth or self._attribute) and not leads_to_block:
                yield Context.STYLE
            else:
                yield Context.STYLE_NAME
            typed = self._text[token.start : min(token.end, token.start + 2)]
            if token.kind == "function" or (token.kind == "opens" and typed != "{"):
                nested += 1
            elif token.kind == "opens":
                depth, colon, rule, nested = depth + 1, False, False, 0
            elif token.kind == "closes" and typed == "}":
                depth, colon, rule = max(depth - 1, 0), False, False
            elif token.kind == "closes":
                nested = max(nested - 1, 0)
            elif token.kind == "other":
                if typed == ";" and not nested:
                    colon, rule = False, False
                rule = rule or typed[0] == "@"
                colon = colon or typed == ":"

    def _opening(self) -> list[bool]:
        """Tell of each token whether what goes on there leads to a block: it is in a selector, or in a rule's head."""
        found: list[bool] = []
        leads = False
        for token in reversed(self._tokens):
            typed = self._text[token.start : min(token.end, token.start + 2)]
            if token.kind == "opens" and typed == "{":
                leads = True
            elif typed in (";", "}"):
                leads = False
            found.append(leads)
        return found[::-1]
