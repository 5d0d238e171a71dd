"""The rows of a table, those of tables inside it left out."""

from __future__ import annotations

from verse_tray.markup.tree import Element


def own_rows(table: Element) -> list[list[Element]]:
    """Return the cells of each row of a table."""
    rows = []
    sections = [child for child in table.children if type(child) is Element]
    for section in sections:
        inner = section.children if section.name in ("tbody", "thead", "tfoot") else [section]
        for row in inner:
            if type(row) is Element and row.name == "tr":
                rows.append([cell for cell in row.children if type(cell) is Element and cell.name in ("td", "th")])
    return rows


def span_of(cell: Element, name: str, most: int) -> int:
    """Return the ``colspan`` or ``rowspan`` of a cell, 1 to ``most`` (HTML standard, 4.9.11)."""
    given = cell.attributes.get(name, "1").strip()
    digits = given[: len(given) - len(given.lstrip("0123456789"))][:6]
    return min(max(int(digits), 1), most) if digits else 1
