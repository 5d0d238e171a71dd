"""Tables that an editor does not keep, as a paragraph for each row."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element

NAME = "rows-as-lines"
SENTENCE = "Rows of tables that the editor does not keep became paragraphs."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the tags of paragraphs in place of those of rows, and wide blanks between the cells: no word of ours."""
    for table in draft.subject.each("table"):
        rows = list(_rows(table))
        if not rows or not draft.is_lost(table) or not draft.is_lost(rows[0]):
            continue
        yield from draft.with_tags(table, "<div>", "</div>")
        for child in table.children:
            if isinstance(child, Element) and child.name in ("thead", "tbody", "tfoot"):
                yield from draft.with_tags(child, "", "")
        for row in rows:
            cells = _cells(row)
            name = "div" if any(_holds_blocks(cell) for cell in cells) else "p"
            yield from draft.with_tags(row, f"<{name}>", f"</{name}>")
            for number, cell in enumerate(cells):
                yield from draft.with_tags(cell, "&emsp;" if number and cell.children else "", "")


def _holds_blocks(cell: Element) -> bool:
    return any(isinstance(child, Element) and child.name in BLOCKS for child in cell.children)


def _rows(table: Element) -> Iterator[Element]:
    for child in table.children:
        if isinstance(child, Element):
            if child.name == "tr":
                yield child
            elif child.name in ("thead", "tbody", "tfoot"):
                yield from (each for each in child.children if isinstance(each, Element) and each.name == "tr")


def _cells(row: Element) -> list[Element]:
    return [each for each in row.children if isinstance(each, Element) and each.name in ("td", "th")]
