"""Whether two trees are certain to be read alike: they differ in nothing that is ever seen."""

from __future__ import annotations

from verse_tray.editors.lists import is_event_handler
from verse_tray.markup.tree import Comment, Element, Node, Text, Tree

_UNSEEN = frozenset(("script", "noscript", "template", "meta", "base"))
_SILENT = frozenset(
    "target rel referrerpolicy loading decoding fetchpriority crossorigin integrity ping download tabindex accesskey "
    "spellcheck translate autocomplete inputmode".split()
)
"""Attributes that say nothing of the look, to nobody's eye."""


def look_the_same(one: Tree, other: Tree) -> bool:
    """Tell whether two trees differ in scripts, event handlers, comments and the like only."""
    stack = [(one.root, other.root)]
    while stack:
        first, second = stack.pop()
        if first is second:
            continue
        mine, theirs = _shown(first), _shown(second)
        if len(mine) != len(theirs):
            return False
        for a, b in zip(mine, theirs, strict=True):
            if type(a) is Text and type(b) is Text:
                if a.data != b.data and b.means != a.data:
                    return False
            elif type(a) is Element and type(b) is Element:
                if a.key != b.key or a.name != b.name or a.namespace != b.namespace:
                    return False
                if a.attributes != b.attributes and _seen(a) != _seen(b):
                    return False
                stack.append((a, b))
            else:
                return False
    return True


def _shown(element: Element) -> list[Node]:
    return [
        child
        for child in element.children
        if type(child) is not Comment and not (type(child) is Element and child.name in _UNSEEN)
    ]


def _seen(element: Element) -> dict[str, str]:
    return {
        name: value
        for name, value in element.attributes.items()
        if name not in _SILENT and not is_event_handler(name) and not name.startswith("data-")
    }
