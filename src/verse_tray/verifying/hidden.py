"""Whether something on a page is there and yet not shown, by the page's own styles."""

from __future__ import annotations

from collections.abc import Sequence

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Node, Tree
from verse_tray.style.cascade import cascade
from verse_tray.style.page_sheets import sheets_in

_FAR = -900.0  # pixels to a side, from which on it is outside every window


def hidden_by(page: Sequence[Node], around: Sequence[Element], nodes: Sequence[Node]) -> str:
    """Return what hides all that stands at a place of a page; empty where it is shown.

    Args:
        page: What stands in the page.
        around: The elements around the place, the outermost first.
        nodes: What stands there.
    """
    elements = [each for each in nodes if type(each) is Element]
    tree = Tree(Element("", HTML, children=list(page)))
    every: list[Element] = tree.elements()
    found = cascade(tree, every, tuple(sheets_in(tree)), None)
    for each in around:
        if why := _why(each, found.winners.get(each.key, {})):
            return f"{why} on <{each.name}> around it"
    reasons = [_why(each, found.winners.get(each.key, {})) for each in elements]
    if elements and all(reasons) and len(elements) == len([each for each in nodes if not _is_blank(each)]):
        return f"{reasons[0]} on <{elements[0].name}>"
    return ""


def _is_blank(node: Node) -> bool:
    return type(node) is not Element and not getattr(node, "data", "").strip()


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
