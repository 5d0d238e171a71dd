"""Markup as a sequence that is equal where browsers read the same."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Element, Text


@lru_cache(maxsize=4096)
def flat(markup: str) -> tuple[Any, ...]:
    """Return a text as a sequence that is equal where browsers read the same."""
    found: list[Any] = []
    stack: list[Any] = parse_fragment(markup).tree.root.children[::-1]
    while stack:
        node = stack.pop()
        if type(node) is Text:
            found.append(node.data)
        elif type(node) is Element:
            found.append((node.namespace, node.name, tuple(sorted(node.attributes.items()))))
            stack += [_END, *node.children[::-1]]
        else:
            found.append(("end",) if node is _END else ("other", node.markup))
    return tuple(found)


_END = object()
