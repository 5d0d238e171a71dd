"""A table of data without header cells."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.checks.tables.rows import own_rows
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Screen readers cannot say which column or row a cell belongs to.",
    advice='Make the cells of the first row <th scope="col">; for a table that only lays out, write '
    'role="presentation".',
    bad="<table><tr><td>Day</td><td>Low water</td></tr><tr><td>Saturday</td><td>06:12</td></tr></table>",
    good='<table><tr><th scope="col">Day</th><th scope="col">Low water</th></tr>'
    "<tr><td>Saturday</td><td>06:12</td></tr></table>",
)
_LAYS_OUT = frozenset("table img iframe form input div p ul ol h1 h2 h3 h4 figure video object button script".split())


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each table of two rows and columns or more that has no header cell and does not lay out."""
    for table in subject.each("table"):
        if table.attributes.get("role", "").lower() in ("presentation", "none") or _only_places(table):
            continue
        rows = own_rows(table)
        cells = [cell for row in rows for cell in row]
        if len(rows) < 2 or max(map(len, rows)) < 2 or any(cell.name == "th" for cell in cells):
            continue
        if any(_lays_out(cell) for cell in cells) or all(_only_links(cell) for cell in cells):
            continue
        if 3 * sum(map(_says_nothing, cells)) >= len(cells):  # gaps and signs between things: no data
            continue
        if any(cell.attributes.get("role", "").endswith("header") for cell in cells):
            continue
        yield Mistake(
            subject.name_span(table),
            "This table has no header cells, so screen readers cannot say what a cell is about. Make those of the "
            "first "
            'row (or column) <th scope="col">; if the table only lays out, give it role="presentation".',
        )


def _only_places(table: Element) -> bool:
    """Tell whether the attributes of a table say that it puts things side by side."""
    bare = all(table.attributes.get(name) == "0" for name in ("cellpadding", "cellspacing"))
    return bare and table.attributes.get("border", "0") == "0" and table.attributes.get("width", "") == "100%"


def _says_nothing(cell: Element) -> bool:
    stack: list[Node] = [cell]
    while stack:
        node = stack.pop()
        if type(node) is Text and any(map(str.isalnum, node.data)):
            return False
        if type(node) is Element:
            stack += node.children
    return True


def _lays_out(cell: Element) -> bool:
    stack = [cell]
    while stack:
        for child in stack.pop().children:
            if type(child) is Element:
                if child.name in _LAYS_OUT:
                    return True
                stack.append(child)
    return False


def _only_links(cell: Element) -> bool:
    return all(
        (type(c) is Text and not c.data.strip()) or (type(c) is Element and c.name == "a") for c in cell.children
    )
