"""Markup in lines that can be held against one another, whatever white space stands between its blocks."""

from __future__ import annotations

from verse_tray.markup.names import BLOCKS
from verse_tray.model.patterns import lazy

_BREAK = lazy(
    rf"\n|(?=<(?:{'|'.join(sorted(BLOCKS))}|script|style|iframe|!--)\b)"
    "|(?=</(?:article|div|figure|ol|section|table|tbody|thead|ul)>)|(?<=</li>)|(?<=</t[dhr]>)|(?<=</[uo]l>)"
)


def block_lines(markup: str) -> list[str]:
    """Return the lines of a markup, one for each block: two stages line up where they say the same."""
    return [line.strip() for line in _BREAK.split(markup) if line.strip()]
