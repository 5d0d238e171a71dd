"""Whether something on a page is there and yet not shown, by the page's own styles."""

from __future__ import annotations

import re

from verse_tray.markup.tree import Element, Node, Text, Tree, own_text
from verse_tray.model.patterns import lazy
from verse_tray.style.cascade import cascade
from verse_tray.style.page_sheets import sheets_in
from verse_tray.verifying.finding import Place

_HIDES = lazy(r"display|visibility|opacity|absolute|fixed|all\s*:|\\", re.IGNORECASE)
_FAR = -900.0  # pixels to a side, from which on it is outside every window


def hidden_by(place: Place) -> str:
    """Return what hides all that stands at a place of a page; empty where it is shown."""
    tree, around, nodes = _way(place)
    styles = [each for each in place.page.elements if each.name == "style"]
    said = [own_text(each) for each in styles]
    said += [each.attributes.get("style", "") for each in tree.elements()]
    if not any(map(_HIDES.search, said)) and not any("hidden" in each.attributes for each in (*around, *nodes)):
        return ""
    found = cascade(tree, tree.elements(), tuple(sheets_in(Tree(Element("", children=[*styles])))))
    for each in around:
        if why := _why(each, found.winners.get(each.key, {})):
            return f"{why} on <{each.name}> around it"
    if any(type(each) is Text and each.data.strip() for each in place.nodes):
        return ""
    reasons = [_why(each, found.winners.get(each.key, {})) for each in nodes]
    return f"{reasons[0]} on <{nodes[0].name}>" if reasons and all(reasons) else ""


def _way(place: Place) -> tuple[Tree, list[Element], list[Element]]:
    """Return the page with nothing in it but the way to a place and what stands beside that way.

    Selectors that look at more (``:has()``, what is inside of neighbours) are not held against it.
    """
    root = holder = Element("")
    key = 0
    around: list[Element] = []
    nodes: list[Element] = []
    beside: list[Node] = list(place.page.nodes)
    there = set(map(id, place.nodes))
    for wanted in (*place.around, None):
        for each in beside:
            if type(each) is Element:
                key += 1
                copy = Element(each.name, each.namespace, each.attributes, key)
                holder.children.append(copy)
                if each is wanted:
                    around.append(copy)
                elif wanted is None and id(each) in there:
                    nodes.append(copy)
        if wanted is not None:
            holder, beside = around[-1], wanted.children
    return Tree(root), around, nodes


def _why(element: Element, winners: dict[str, tuple[str, bool]]) -> str:
    value = {name: each[0].strip().lower() for name, each in winners.items()}
    if value.get("display") == "none":
        return "display: none"
    if value.get("visibility") in ("hidden", "collapse"):
        return f"visibility: {value['visibility']}"
    if _number(value.get("opacity", "1")) == 0:
        return "opacity: 0"
    if value.get("content-visibility") == "hidden":
        return "content-visibility: hidden"
    if value.get("position") in ("absolute", "fixed"):
        for side in ("left", "top"):
            if (far := _number(value.get(side, "0"))) is not None and far <= _FAR:
                return f"{side}: {value[side]}"
    if "hidden" in element.attributes and "display" not in value:
        return "the attribute hidden"
    return ""


def _number(value: str) -> float | None:
    try:
        return float(value.removesuffix("px").removesuffix("%"))
    except ValueError:
        return None
