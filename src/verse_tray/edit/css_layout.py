"""White space in style sheets, for reading or for a small size; everything else stays as it was typed."""

from __future__ import annotations

import re

from verse_tray.style.declarations import too_nested

_TOKEN = re.compile(
    r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"?|'(?:\\.|[^'\\\n])*'?|url\(\s*(?![\"'\s])[^)]*\)?|\\.|[{};]|\s+|[()\[\]]"
    r"|[^\s{};\"'\\/()\[\]u]+|.",
    re.DOTALL | re.IGNORECASE,
)


def neat_css(text: str, *, width: int, indent: str = "  ") -> list[str]:
    """Return a style sheet as lines: a declaration a line, short rules that were typed in one line left in one."""
    lines: list[str] = []
    whole = text.strip()
    if too_nested(whole):
        return whole.split("\n")
    one_liner = "\n" not in whole
    depth, current, brackets = 0, "", 0
    at = 0
    tokens = [match[0] for match in _TOKEN.finditer(whole)]

    def flush(end: str = "") -> None:
        nonlocal current
        line = current.strip() + end
        if line:
            lines.append(indent * depth + line)
        current = ""

    while at < len(tokens):
        token = tokens[at]
        at += 1
        if token.startswith("/*"):
            if not current.strip():
                blank = at > 1 and tokens[at - 2].count("\n") > 1
                if blank and lines and lines[-1]:
                    lines.append("")
                flush()
                lines.append(indent * depth + token)
            else:
                current += token
        elif token.isspace():
            if token.count("\n") > 1 and not current.strip() and lines and lines[-1] and not lines[-1].endswith("{"):
                lines.append("")
            current += " " if current and not current.endswith(" ") else ""
        elif token in "([":
            brackets += 1
            current += token
        elif token in ")]":
            brackets = max(0, brackets - 1)
            current += token
        elif brackets:
            current += token
        elif token == "{":
            block = _short_block(tokens, at, one_liner=one_liner)
            head = current.strip()
            if block is not None and len(indent * depth) + len(head) + len(block[0]) + 4 <= width:
                current = f"{head} {{ {block[0]} }}" if block[0] else f"{head} {{}}"
                flush()
                at = block[1]
            else:
                current = head
                flush(" {" if head else "{")
                depth += 1
        elif token == "}":
            flush(";" if current.strip() else "")
            depth = max(0, depth - 1)
            while lines and not lines[-1]:
                lines.pop()
            lines.append(indent * depth + "}")
        elif token == ";":
            flush(";")
        else:
            current += token
    flush()
    return [_spaced(line) for line in lines]


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


_DECLARATION = re.compile(r"(\s*(?:--)?[A-Za-z-]+)\s*:\s*(?=\S)")


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
    for match in _TOKEN.finditer(text.strip()):
        token = match[0]
        if token.startswith("/*"):
            token = " "
        if token.isspace():
            token = " "
            if pieces and pieces[-1][-1:] in " {};,":
                continue
        elif token in ("{", "}", ";") or token.startswith(","):
            if pieces and pieces[-1] == " ":
                pieces.pop()
            if token == "}" and pieces and pieces[-1] == ";":
                pieces.pop()
        pieces.append(token)
    return "".join(pieces)
