"""Keys for a tree that was parsed again from stored text."""

from __future__ import annotations

from bisect import bisect_left

from verse_tray.markup.names import HTML, RAW_TEXT
from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.references import decode
from verse_tray.markup.tree import Element, Node, Text, Tree


def parse_stored(text: str, starts: dict[int, Node]) -> Tree:
    """Parse stored text and give each node key and place of the node that was written there.

    Args:
        text: The stored text.
        starts: The node that begins at an offset of the text before it was cut.
    """
    tree = parse_fragment(text).tree
    offsets = sorted(starts)
    for node in list(tree.nodes()):
        span, node.key = node.span, 0
        if span is None:
            continue
        node.span = None
        origin = starts.get(span.start)
        if type(node) is Text:
            _split(node, text, span.start, span.end, starts, offsets)
        elif origin is not None and type(origin) is type(node):
            if not isinstance(node, Element) or (isinstance(origin, Element) and origin.name == node.name):
                node.key, node.span = origin.key, origin.span
    return tree


def _split(text: Text, stored: str, start: int, end: int, starts: dict[int, Node], offsets: list[int]) -> None:
    """Take a text apart where texts that had been neighbours have flowed together."""
    inside = [o for o in offsets[bisect_left(offsets, start) : bisect_left(offsets, end)] if type(starts[o]) is Text]
    parent = text.parent
    if not inside or parent is None:
        return
    if len(inside) == 1 and inside[0] == start:
        text.key, text.span = starts[start].key, starts[start].span
        return
    bounds = sorted({start, *inside}) + [end]
    raw = parent.namespace == HTML and parent.name in RAW_TEXT
    pieces: list[Node] = []
    for first, last in zip(bounds, bounds[1:], strict=False):
        data = stored[first:last] if raw else decode(stored[first:last], attribute=False)[0]
        origin = starts.get(first)
        part = Text(data, origin.key if origin else 0, origin.span if origin else None)
        part.parent = parent
        pieces.append(part)
    if "".join(part.data for part in pieces if isinstance(part, Text)) != text.data:
        return
    index = next(i for i, child in enumerate(parent.children) if child is text)
    parent.children[index : index + 1] = pieces
