"""Text that styles make: the values of ``content`` (CSS Generated Content Level 3)."""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.style.tokens import CssToken, css_tokens

_ESCAPE = lazy(r"\\(?:([0-9a-fA-F]{1,6})\s?|\n|(.))", re.DOTALL)
_WORDS = {"open-quote": "\u201c", "close-quote": "\u201d"}


def made_text(content: str, element: Element) -> str:
    """Return the text that a value of ``content`` makes of an element; counters and pictures make none."""
    content = content[: 2 * _LONGEST]
    pieces: list[str] = []
    inside = ""
    for token in _tokens(content):
        typed = content[token.start : token.end]
        if token.kind == "function":
            inside = typed.lower()
        elif token.kind == "closes":
            inside = ""
        elif inside == "attr(" and token.kind == "other":
            pieces.append(element.attributes.get(typed.lower(), ""))
        elif inside:
            continue
        elif token.kind == "string":
            pieces.append(_ESCAPE.sub(_unescaped, typed.strip("\"'") if len(typed) > 1 else ""))
        elif typed == "/":  # behind it stands what is read out instead
            break
        else:
            pieces.append(_WORDS.get(typed.lower(), ""))
    return "".join(pieces)[:_LONGEST]


@lru_cache(maxsize=256)
def _tokens(content: str) -> list[CssToken]:
    return css_tokens(content)


_LONGEST = 1_000  # signs that one style makes of an element; it may make them of thousands


def _unescaped(match: re.Match[str]) -> str:
    if match[1] is None:
        return match[2] or ""
    number = int(match[1], 16)
    return chr(number) if 0 < number < 0x110000 and not 0xD800 <= number < 0xE000 else "\ufffd"
