"""Columns that styles make, as a table, where only tables survive."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.style.values import words

NAME = "columns-as-table"
SENTENCE = "Columns became the cells of a table, since what puts them side by side goes."
_MOST = 6  # columns: more wrap on every screen
_NO_COLUMNS = frozenset("p tr ul ol table thead tbody tfoot".split())


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the tags of a table around the children of elements that lose what puts these side by side."""
    for element in draft.elements():
        children = [child for child in element.children if isinstance(child, Element)]
        if len(children) < 2 or element.name in _NO_COLUMNS or _has_words(element):
            continue
        look = draft.look(element)
        own = _columns(len(children), look)
        columns = (own if draft.loses(element, "display") else 0) if own else _by_children(draft, children)
        inner = draft.inner(element)
        spans = [draft.trip.piece.source_map.outer_span(child) for child in children]
        if columns < 2 or inner is None or any(span is None for span in spans):
            continue
        yield draft.put(inner.start, '<table role="presentation" style="width: 100%"><tbody><tr>')
        for number, span in enumerate(spans):
            assert span is not None
            row = "</tr><tr>" if number and number % columns == 0 else ""
            yield draft.put(span.start, f'{row}<td style="vertical-align: top">')
            yield draft.put(span.end, "</td>")
        yield draft.put(inner.end, "</tr></tbody></table>")


def _has_words(element: Element) -> bool:
    return any(not isinstance(child, Element) and getattr(child, "data", "").strip() for child in element.children)


def _columns(count: int, look: dict[str, str]) -> int:
    """Return how many columns so many children stand in; 0 where they do not, or nobody knows."""
    display = look.get("display", "").split(" ")[0]
    if display in ("flex", "inline-flex") and not look.get("flex-direction", "row").startswith("column"):
        return count if count <= _MOST else 0
    if display in ("grid", "inline-grid"):
        template = look.get("grid-template-columns", "")
        repeated = re.fullmatch(r"repeat\(\s*(\d)\s*,.*\)", template)
        columns = int(repeated[1]) if repeated else len(words(template))
        return columns if columns <= _MOST else 0
    return 0


def _by_children(draft: Draft, children: list[Element]) -> int:
    """Return how many children stand side by side by styles of their own that go: cells, blocks in a line, floats."""
    if len(children) > _MOST or any(child.name not in BLOCKS for child in children):
        return 0
    looks = [draft.look(child) for child in children]
    for name, values in (("display", ("table-cell", "inline-block")), ("float", ("left",))):
        if all(look.get(name) in values for look in looks) and draft.loses(children[0], name):
            return len(children)
    return 0
