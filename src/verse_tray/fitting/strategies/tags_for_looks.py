"""Bold, slanted, struck and centred text as tags, where styles go."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.spans import Span

NAME = "tags-for-looks"
SENTENCE = "Bold, slanted, underlined and struck text became tags that mean it."
_ALREADY = {
    "strong": frozenset("b strong h1 h2 h3 h4 h5 h6 th".split()),
    "em": frozenset("i em cite dfn var address".split()),
    "u": frozenset(("u", "ins", "a")),
    "s": frozenset("s del strike".split()),
}
"""Elements that look so by themselves."""


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield tags around the contents of elements whose look of that kind goes."""
    for element in draft.elements:
        inner = draft.inner(element)
        if inner is None or inner.start == inner.end or element.name in ("table", "tbody", "thead", "tr", "ul", "ol"):
            continue
        look = draft.look(element)
        tags = [tag for tag, names in _wanted(look) if draft.loses(element, names) and not _is_there(element, tag)]
        if not tags or _holds_blocks(element):
            continue
        yield Splice(Span(inner.start, inner.start), "".join(f"<{tag}>" for tag in tags))
        yield Splice(Span(inner.end, inner.end), "".join(f"</{tag}>" for tag in reversed(tags)))


def _wanted(look: dict[str, str]) -> Iterator[tuple[str, str]]:
    weight = look.get("font-weight", "")
    if re.match(r"bold|[6-9]\d\d", weight) or re.search(r"(?:^|\s)(?:bold|[6-9]00)\s", look.get("font", "")):
        yield "strong", "font-weight"
    if re.match(r"italic|oblique", look.get("font-style", "")) or "italic " in look.get("font", ""):
        yield "em", "font-style"
    lines = look.get("text-decoration", "") + " " + look.get("text-decoration-line", "")
    if "underline" in lines:
        yield "u", "text-decoration"
    if "line-through" in lines:
        yield "s", "text-decoration"


def _is_there(element: Element, tag: str) -> bool:
    return element.name in _ALREADY[tag]


def _holds_blocks(element: Element) -> bool:
    return any(isinstance(child, Element) and child.name in BLOCKS for child in element.children)
