"""Style rules and scripts without their element: browsers show them as text."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.journeys.piece import Piece
from verse_tray.markup.names import BLOCKS, CODE, INVISIBLE, TEXT_LEVEL, VOID
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Finding, Severity

# a selector, and in its block at least one declaration that ends like one
_RULE = re.compile(
    r"(?:^|[{};>\n])[ \t]*[.#@*a-zA-Z][^{}<>;\n]{0,200}\{\s*(?:[a-z-]{1,40}\s*:[^;{}<>\n]{1,200}(?:;\s*|(?=\})))+\}"
)
_WORD = re.compile(r"(?<![.#:\w\"'=-])[A-Za-z][\w-]*")
_ELEMENTS = BLOCKS | TEXT_LEVEL | VOID | frozenset("body button html iframe picture select svg textarea video".split())
_SCRIPT = re.compile(
    r"\bdocument\s*\.\s*(?:getElement|querySelector|addEventListener|write|createElement)\w*\s*\("
    r"|\bwindow\s*\.\s*\w+\s*[=(]|\bfunction\s*\w*\s*\([\w\s,]*\)\s*\{"
    r"|(?:^|[;{\n])[ \t]*(?:var|let|const)\s+[\w$]+\s*=[^;\n]*;|=>\s*\{"
)


def check(piece: Piece) -> Iterator[Finding]:
    """Yield a finding for each visible text, code samples left out, that reads like a style rule or a script."""
    places = piece.parsed.places
    for text in _texts(piece):
        for kind, pattern, wrapper in (("css", _RULE, "style"), ("script", _SCRIPT, "script")):
            found = next(filter(_is_plausible, pattern.finditer(text.data)), None)
            if found is None:
                continue
            what = {"css": "a style rule", "script": "a script"}[kind]
            message = (
                f"This reads like {what}, and readers will see it as text: put it inside <{wrapper}>…</{wrapper}>."
            )
            span = places.span(text.key)
            place = None
            if span is not None:
                lead = text.data[: found.start()]
                lead += found[0][: len(found[0]) - len(found[0].lstrip("{};>\n\t "))]
                typed = piece.source.slice(span)
                exact = typed.startswith(lead)  # no references in front of it
                place = piece.source.place(span.start + (len(lead) if exact else 0))
            line, column = (None, None) if place is None else place
            yield Finding(f"code/bare-{kind}", "written", message, line, column, Severity.ERROR)
            break


def _is_plausible(found: re.Match[str]) -> bool:
    """Tell whether what stands before the block of a rule is a selector, and not words that happen to stand there."""
    selector = found[0].partition("{")[0] if found.re is _RULE else ""
    words = _WORD.findall(selector)
    return selector.lstrip("{};>\n\t ").startswith("@") or all(word.lower() in _ELEMENTS for word in words)


def _texts(piece: Piece) -> Iterator[Text]:
    stack: list[Node] = piece.parsed.tree.root.children[::-1]
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            if "{" in node.data or "(" in node.data:
                yield node
        elif isinstance(node, Element) and node.name not in INVISIBLE and node.name not in CODE | {"textarea"}:
            stack += node.children[::-1]
