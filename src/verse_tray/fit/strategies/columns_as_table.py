"""Columns that styles make, as a table, where only tables survive."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.style.values import words

NAME = "columns-as-table"
SENTENCE = "Columns became the cells of a table, since what puts them side by side goes."
_MOST = 6  # columns: more wrap on every screen


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the tags of a table around the children of elements that lose what puts these side by side."""
    for element in draft.elements():
        inner = draft.inner(element)
        look = draft.look(element)
        columns = _columns(element, look)
        if inner is None or columns < 2 or not draft.loses(element, "display"):
            continue
        children = [child for child in element.children if isinstance(child, Element)]
        spans = [draft.trip.piece.source_map.outer_span(child) for child in children]
        if any(span is None for span in spans):
            continue
        yield draft.put(inner.start, '<table role="presentation" style="width: 100%"><tbody><tr>')
        for number, span in enumerate(spans):
            assert span is not None
            row = "</tr><tr>" if number and number % columns == 0 else ""
            yield draft.put(span.start, f'{row}<td style="vertical-align: top">')
            yield draft.put(span.end, "</td>")
        yield draft.put(inner.end, "</tr></tbody></table>")


def _columns(element: Element, look: dict[str, str]) -> int:
    """Return how many columns an element's children stand in; 0 where they do not, or nobody knows."""
    children = [child for child in element.children if isinstance(child, Element)]
    if not children or any(
        not isinstance(child, Element) and getattr(child, "data", "").strip() for child in element.children
    ):
        return 0
    display = look.get("display", "").split(" ")[0]
    if display in ("flex", "inline-flex") and not look.get("flex-direction", "row").startswith("column"):
        return len(children) if len(children) <= _MOST else 0
    if display in ("grid", "inline-grid"):
        template = look.get("grid-template-columns", "")
        repeated = re.fullmatch(r"repeat\(\s*(\d)\s*,.*\)", template)
        count = int(repeated[1]) if repeated else len(words(template))
        return count if count <= _MOST else 0
    return 0
