"""What a mark stands in within a style text (CSS Syntax Level 3)."""

from __future__ import annotations

import re

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

    def context(self, hole: Span) -> tuple[Context, str]:
        """Return what a mark stands in, and why no value can stand there, if so."""
        at = next((n for n, token in enumerate(self._tokens) if token.start <= hole.start < token.end), None)
        if at is None or self._tokens[at].end < hole.end:
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
        where = self._where(at)
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

    def _where(self, at: int) -> Context:
        """Tell a declaration's value from a selector, a name of a property and the head of an at-rule."""
        depth, colon, rule = 0, False, False
        nested: list[str] = []
        for token in self._tokens[:at]:
            typed = self._text[token.start : token.end]
            if token.kind in ("function", "opens"):
                if typed == "{":
                    depth, colon, rule = depth + 1, False, False
                    nested = []
                else:
                    nested.append(typed)
            elif token.kind == "closes":
                if typed == "}":
                    depth, colon, rule = max(depth - 1, 0), False, False
                elif nested:
                    nested.pop()
            elif token.kind == "other":
                if typed == ";" and not nested:
                    colon, rule = False, False
                elif typed.startswith("@"):
                    rule = True
                colon = colon or typed == ":"
        if rule:
            return Context.STYLE_PART
        if colon and (depth or self._attribute) and not self._opens_rule(at):
            return Context.STYLE
        return Context.STYLE_NAME

    def _opens_rule(self, at: int) -> bool:
        """Tell whether what begins before a token goes on to a block: it is a selector of a rule within a rule."""
        for token in self._tokens[at:]:
            typed = self._text[token.start : token.end]
            if token.kind == "opens" and typed == "{":
                return True
            if typed in (";", "}"):
                return False
        return False
