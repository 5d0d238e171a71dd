"""Style rules and scripts without their element: browsers show them as text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import BLOCKS, CODE, INVISIBLE, TEXT_LEVEL, VOID
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Finding, Severity

_ELEMENTS = BLOCKS | TEXT_LEVEL | VOID | frozenset("body button html iframe picture select svg textarea video".split())
_SCRIPT_WORDS = ("document", "window", "function", "var ", "let ", "const ", "=>")
_BEFORE = "{};>\n\t "
"""What may stand between the beginning of a match and what it is about."""


@lru_cache
def _rule() -> re.Pattern[str]:
    """Return the form of a style rule: a selector, and a block whose declarations end like some."""
    return re.compile(
        r"(?:^|[{};>\n])[ \t]*[.#@*a-zA-Z][^{}<>;\n]{0,200}"
        r"\{\s*(?:[a-z-]{1,40}\s*:[^;{}<>\n]{1,200}(?:;\s*|(?=\})))+\}"
    )


@lru_cache
def _script() -> re.Pattern[str]:
    """Return the forms that scripts have and prose has not."""
    return re.compile(
        r"\bdocument\s*\.\s*(?:getElement|querySelector|addEventListener|write|createElement)\w*\s*\("
        r"|\bwindow\s*\.\s*\w+\s*[=(]|\bfunction\s*\w*\s*\([\w\s,]*\)\s*\{"
        r"|(?:^|[;{\n])[ \t]*(?:var|let|const)\s+[\w$]+\s*=[^;\n]*;|=>\s*\{"
    )


def check(piece: Piece) -> Iterator[Finding]:
    """Yield a finding for each visible text, code samples left out, that reads like a style rule or a script."""
    for text in _texts(piece):
        kind, what, wrapper = "css", "a style rule", "style"
        found = next(filter(_is_selector, _rule().finditer(text.data)), None) if "{" in text.data else None
        if found is None and any(word in text.data for word in _SCRIPT_WORDS):
            kind, what, wrapper = "script", "a script", "script"
            found = _script().search(text.data)
        if found is None:
            continue
        message = f"This reads like {what}, and readers will see it as text: put it inside <{wrapper}>…</{wrapper}>."
        line, column = _place(piece, text, found)
        yield Finding(f"code/bare-{kind}", "written", message, line, column, Severity.ERROR)


def _place(piece: Piece, text: Text, found: re.Match[str]) -> tuple[int | None, int | None]:
    span = piece.parsed.places.span(text.key)
    if span is None:
        return None, None
    lead = text.data[: found.start()] + found[0][: len(found[0]) - len(found[0].lstrip(_BEFORE))]
    exact = piece.source.slice(span).startswith(lead)  # no references in front of it
    return piece.source.place(span.start + (len(lead) if exact else 0))


def _is_selector(found: re.Match[str]) -> bool:
    """Tell whether what stands before the block of a rule is a selector, and not words that happen to stand there."""
    selector = found[0].lstrip(_BEFORE).partition("{")[0]
    words = re.findall(r"(?<![.#:\w\"'=-])[A-Za-z][\w-]*", selector)
    return selector.startswith("@") or all(word.lower() in _ELEMENTS for word in words)


def _texts(piece: Piece) -> Iterator[Text]:
    stack: list[Node] = piece.parsed.tree.root.children[::-1]
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            yield node
        elif isinstance(node, Element) and node.name not in INVISIBLE and node.name not in CODE | {"textarea"}:
            stack += node.children[::-1]
