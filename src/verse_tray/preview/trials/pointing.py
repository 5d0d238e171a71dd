"""Which elements change something when readers point at them, or move the focus there."""

from __future__ import annotations

from verse_tray.model.patterns import lazy
from verse_tray.piece.view import View
from verse_tray.style.selecting import selected
from verse_tray.style.sheets import split_selectors

_STATE = lazy(r":(?:hover|focus(?:-visible|-within)?)(?![\w-])")
_COMBINATOR = lazy(r"\s*[\s>+~]\s*")


def pointed_at(view: View) -> list[int]:
    """Return the keys of elements that a style sheet names with a state, also where another element changes by it."""
    wanted: dict[str, None] = {}
    for sheet in view.sheets:
        for rule in sheet.rules:
            for selector in split_selectors(rule.selectors):
                if (found := _STATE.search(selector)) is not None:
                    behind = _COMBINATOR.search(selector, found.end())
                    bearing = _STATE.sub("", selector[: behind.start() if behind else len(selector)]).strip()
                    wanted[bearing if bearing and bearing[-1] not in ">+~" else f"{bearing}*"] = None
    found_keys = {element.key for elements in selected(view.tree, wanted).values() for element in elements}
    return [element.key for element in view.elements if element.key in found_keys]
