"""White space in style sheets, for reading or for a small size; everything else stays as it was typed."""

from __future__ import annotations

import re

from verse_tray.model.patterns import lazy
from verse_tray.style.source import too_nested
from verse_tray.style.tokens import css_tokens


def _tokens(text: str) -> list[str]:
    """Return the tokens of a sheet as typed; the bracket of a function is one of its own."""
    found: list[str] = []
    for kind, start, end in css_tokens(text):
        found += [text[start : end - 1], "("] if kind == "function" else [text[start:end]]
    return [token for token in found if token]


def neat_css(text: str, *, width: int, indent: str = "  ") -> list[str]:
    """Return a style sheet as lines: a declaration a line, short rules that were typed in one line left in one."""
    whole = text.strip()
    if too_nested(whole):
        return whole.split("\n")
    layout = _Layout(_tokens(whole), width, indent, one_liner="\n" not in whole)
    return [_spaced(line) for line in layout.lines()]


class _Layout:
    """A style sheet being put on lines, token by token."""

    def __init__(self, tokens: list[str], width: int, indent: str, *, one_liner: bool) -> None:
        self._tokens = tokens
        self._width = width
        self._indent = indent
        self._one_liner = one_liner
        self._lines: list[str] = []
        self._current = ""
        self._depth = 0
        self._brackets = 0
        self._at = 0
        """Number of the next token."""

    def lines(self) -> list[str]:
        """Return the lines."""
        while self._at < len(self._tokens):
            token = self._tokens[self._at]
            self._at += 1
            if token.startswith("/*"):
                self._comment(token)
            elif token.isspace():
                self._space(token)
            elif token in "([" or token in ")]":
                self._brackets = max(0, self._brackets + (1 if token in "([" else -1))
                self._current += token
            elif not self._brackets and token in _STRUCTURE:
                _STRUCTURE[token](self)
            else:
                self._current += token
        self._flush()
        return self._lines

    def _add(self, line: str) -> None:
        self._lines.append(self._indent * self._depth + line)

    def _flush(self, end: str = "") -> None:
        line = self._current.strip() + end
        if line:
            self._add(line)
        self._current = ""

    def _comment(self, token: str) -> None:
        if self._current.strip():
            self._current += token
            return
        blank = self._at > 1 and self._tokens[self._at - 2].count("\n") > 1
        if blank and self._lines and self._lines[-1]:
            self._lines.append("")
        self._flush()
        self._add(token)

    def _space(self, token: str) -> None:
        last = self._lines[-1] if self._lines else ""
        if token.count("\n") > 1 and not self._current.strip() and last and not last.endswith("{"):
            self._lines.append("")
        self._current += " " if self._current and not self._current.endswith(" ") else ""

    def _opens(self) -> None:
        block = _short_block(self._tokens, self._at, one_liner=self._one_liner)
        head = self._current.strip()
        if block is not None and len(self._indent * self._depth) + len(head) + len(block[0]) + 4 <= self._width:
            self._current = f"{head} {{ {block[0]} }}" if block[0] else f"{head} {{}}"
            self._flush()
            self._at = block[1]
            return
        self._current = head
        self._flush(" {" if head else "{")
        self._depth += 1

    def _closes(self) -> None:
        self._flush(";" if self._current.strip() else "")
        self._depth = max(0, self._depth - 1)
        while self._lines and not self._lines[-1]:
            self._lines.pop()
        self._add("}")

    def _ends(self) -> None:
        self._flush(";")


_STRUCTURE = {"{": _Layout._opens, "}": _Layout._closes, ";": _Layout._ends}


def _short_block(tokens: list[str], at: int, *, one_liner: bool) -> tuple[str, int] | None:
    """Return the declarations of a block that was typed in one line, and where it ends; None for another."""
    inner: list[str] = []
    for end in range(at, len(tokens)):
        token = tokens[end]
        if token == "{" or token.startswith("/*") or "\n" in token:
            return None
        if token == "}":
            text = re.sub(r"\s+", " ", "".join(inner)).strip()
            if one_liner and text.count(";") > 1:
                return None
            return (text + ("" if not text or text.endswith(";") else ";")), end + 1
        inner.append(token)
    return None


_DECLARATION = lazy(r"(\s*(?:--)?[A-Za-z-]+)\s*:\s*(?=\S)")


def _spaced(line: str) -> str:
    """Put one space behind the colon of a declaration."""
    if line.endswith(";") and "{" not in line and not line.lstrip().startswith(("@", "/*")):
        match = _DECLARATION.match(line)
        if match is not None and not match[1].lstrip().startswith("--"):
            return f"{match[1]}: {line[match.end() :]}"
    return line


def compact_css(text: str) -> str:
    """Return a style sheet without comments, line ends and the spaces that mean nothing."""
    pieces: list[str] = []
    for token in _tokens(text.strip()):
        if token.startswith("/*"):
            token = " "
        if token.isspace():
            token = " "
            if not pieces or pieces[-1][-1:] in " {};,":
                continue
        elif token in ("{", "}", ";") or token.startswith(","):
            if pieces and pieces[-1] == " ":
                pieces.pop()
            if token == "}" and pieces and pieces[-1] == ";":
                pieces.pop()
        pieces.append(token)
    if pieces and pieces[-1] == " ":
        pieces.pop()
    return "".join(pieces)
