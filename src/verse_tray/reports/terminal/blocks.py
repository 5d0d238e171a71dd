"""What stands on lines of its own: headings, paragraphs, lists, tables, pictures as boxes."""

from __future__ import annotations

import re
from collections.abc import Iterator

from rich.box import SQUARE
from rich.cells import cell_len
from rich.console import RenderableType
from rich.padding import Padding
from rich.panel import Panel
from rich.rule import Rule
from rich.table import Table
from rich.text import Text as Line

from verse_tray.markup.names import BLOCKS, HTML, INVISIBLE
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.reports.terminal.inline import Losses, label_of, line_of, mark_gone, typed_line_of

_DEEPEST = 12  # blocks that are set in; deeper ones stand where the deepest does
_PICTURES = frozenset("img iframe video audio object embed canvas svg".split())
_HEADINGS = {"h1": "═", "h2": "─", "h3": "", "h4": "", "h5": "", "h6": ""}


def blocks_of(nodes: list[Node], losses: Losses, depth: int = 0) -> Iterator[RenderableType]:
    """Yield the blocks that nodes make, each followed by an empty line."""
    waiting: list[Node] = []
    for node in nodes:
        if type(node) is Element and _is_block(node):
            yield from _paragraph(waiting, losses)
            waiting = []
            yield from _block(node, losses, depth)
            if node.key and (told := losses.take(-node.key)):
                yield from _told(told)
        else:
            waiting.append(node)
    yield from _paragraph(waiting, losses)


def _is_block(element: Element) -> bool:
    """Tell whether an element stands on lines of its own, or holds one that does; deep nesting is left alone."""
    if element.name in BLOCKS:
        return True
    stack: list[Node] = [] if element.name in INVISIBLE or element.namespace != HTML else list(element.children)
    while stack:
        node = stack.pop()
        if type(node) is Element:
            if node.name in BLOCKS:
                return True
            stack += node.children
    return False


def _paragraph(nodes: list[Node], losses: Losses) -> Iterator[RenderableType]:
    alone = [node for node in nodes if _shows(node)]
    if len(alone) == 1 and (picture := _lone_picture(alone[0])) is not None:
        label, address = picture
        yield Panel(Line(f"{label}\n{address}" if address else label), box=SQUARE, expand=False)
        told = [each for node in nodes if node.key for key in (node.key, -node.key) for each in losses.take(key)]
        if told:
            yield from _told(told)
        return
    line = line_of(nodes, losses)
    if line.plain:
        yield Padding(line, (0, 0, 1, 0))


def _shows(node: Node) -> bool:
    if type(node) is Text:
        return bool(node.data.strip())
    return type(node) is Element and not (node.name in INVISIBLE and label_of(node) is None)


def _lone_picture(node: Node) -> tuple[str, str] | None:
    """Return the label of a picture that stands alone, and the address that a link around it leads to."""
    address = ""
    while type(node) is Element and node.name == "a":
        address = f"leads to {node.attributes['href']}" if node.attributes.get("href") else address
        inner = [child for child in node.children if _shows(child)]
        if len(inner) != 1:
            return None
        node = inner[0]
    if type(node) is Element and node.name in _PICTURES:
        return (label_of(node) or "").strip("[]"), address
    return None


def _told(told: list[str]) -> Iterator[RenderableType]:
    line = Line()
    mark_gone(line, told)
    yield Padding(line, (0, 0, 1, 0))


def _block(element: Element, losses: Losses, depth: int) -> Iterator[RenderableType]:
    name = element.name
    if "hidden" in element.attributes or (name == "dialog" and "open" not in element.attributes):
        return
    told = losses.take(element.key) if element.key else []
    if told:
        yield from _told(told)
    if name in _HEADINGS:
        line = line_of(element.children, losses)
        if line.plain:
            line.stylize("bold")
            ruled = _HEADINGS[name] * max(map(cell_len, line.plain.split("\n")))
            yield Padding(Line("\n").join([line, Line(ruled[:120])]) if ruled else line, (0, 0, 1, 0))
    elif name == "hr":
        yield Rule(style="dim")
    elif name == "pre":
        line = typed_line_of(element.children, losses)
        line.stylize("cyan")
        yield Padding(line[len(line.plain) - len(line.plain.lstrip("\n")) :], (0, 0, 1, 2))
    elif name in ("ul", "ol", "menu", "dir") and depth < _DEEPEST:
        yield from _list(element, losses, depth)
    elif name == "table" and depth < 2:
        yield from _table(element, losses)
    elif name in ("blockquote", "dd") and depth < _DEEPEST:
        for each in blocks_of(element.children, losses, depth + 1):
            yield Padding(each, (0, 0, 0, 4))
    elif depth < 100:
        yield from blocks_of(element.children, losses, depth + 1)
    else:
        yield from _paragraph(element.children, losses)


def _list(element: Element, losses: Losses, depth: int) -> Iterator[RenderableType]:
    start = element.attributes.get("start", "")
    number = int(start[:9]) if re.fullmatch(r"-?[0-9]+", start) else 1
    table = Table(box=None, show_header=False, padding=(0, 1, 0, 0), pad_edge=False)
    table.add_column(justify="right", no_wrap=True)
    table.add_column(overflow="fold")
    rows = 0
    for item in element.children:
        if type(item) is not Element:
            continue
        parts = list(blocks_of(item.children, losses, depth + 1))
        inner = Table.grid()
        for part in parts:
            inner.add_row(part.renderable if isinstance(part, Padding) and part.bottom == 1 and not part.left else part)
        table.add_row(f"{number}." if element.name == "ol" else "•", inner)
        number += 1
        rows += 1
    if rows:
        yield Padding(table, (0, 0, 1, 2), expand=False)


def _table(element: Element, losses: Losses) -> Iterator[RenderableType]:
    rows: list[list[Element]] = []
    captions = []
    stack: list[Node] = [*reversed(element.children)]
    while stack:
        node = stack.pop()
        if type(node) is not Element:
            continue
        if node.name == "tr":
            rows.append([cell for cell in node.children if type(cell) is Element and cell.name in ("td", "th")])
        elif node.name == "caption":
            captions.append(node)
        elif node.name in ("thead", "tbody", "tfoot"):
            stack += reversed(node.children)
    widest = max((sum(_span(cell) for cell in row) for row in rows), default=0)
    if not widest:
        yield from blocks_of(element.children, losses, 2)
        return
    table = Table(box=SQUARE, show_header=False, show_lines=True, border_style="dim")
    for _ in range(widest):
        table.add_column(overflow="fold")
    for row in rows:
        cells: list[RenderableType] = []
        for cell in row:
            line = line_of(cell.children, losses)
            if cell.name == "th":
                line.stylize("bold")
            cells += [line, *([""] * (_span(cell) - 1))]
        table.add_row(*cells[:widest])
    for caption in captions:
        yield line_of(caption.children, losses)
    yield Padding(table, (0, 0, 1, 0), expand=False)


def _span(cell: Element) -> int:
    given = cell.attributes.get("colspan", "1").strip()
    return max(1, min(int(given[:4]), 60)) if given.isascii() and given.isdigit() else 1
