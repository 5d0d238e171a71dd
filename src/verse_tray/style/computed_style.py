"""The computed values of an element, and those that it has when nobody says anything."""

from __future__ import annotations

from typing import Any

from verse_tray.markup.tree import Element
from verse_tray.style.colours import Colour
from verse_tray.style.expand import SIDES
from verse_tray.style.variables import Environment

Value = Any
"""Pixels (``float``) of a length, a :class:`Colour`, or the words of the value in lower case."""

INITIAL: dict[str, Value] = {
    "color": Colour(0, 0, 0), "background-color": Colour(0, 0, 0, 0), "background-image": "none", "font-size": 16.0,
    "font-weight": 400.0, "font-style": "normal", "font-family": "serif", "text-align": "start",
    "line-height": "normal", "text-transform": "none", "text-decoration-line": "none", "letter-spacing": 0.0,
    "word-spacing": 0.0, "opacity": 1.0,
    "white-space-collapse": "collapse", "text-wrap-mode": "wrap", "visibility": "visible", "display": "inline",
    "float": "none", "position": "static", "width": "auto", "height": "auto", "max-width": "none", "min-width": "auto",
    "max-height": "none", "min-height": "auto", "list-style-type": "disc", "list-style-position": "outside",
    "list-style-image": "none", "flex-direction": "row", "flex-wrap": "nowrap", "flex-grow": 0.0, "flex-basis": "auto",
    "grid-template-columns": "none", "column-gap": "normal", "row-gap": "normal", "overflow-x": "visible",
    "overflow-y": "visible", "box-shadow": "none", "text-shadow": "none", "transform": "none", "filter": "none",
    "clip-path": "none", "text-indent": 0.0, "vertical-align": "baseline", "direction": "ltr", "animation-name": "none",
    "column-count": "auto", "column-width": "auto", "font-variant-caps": "normal", "border-spacing": "0px",
    "border-collapse": "separate", "caption-side": "top", "clip": "auto",
    "top": "auto", "left": "auto", "right": "auto",
    "bottom": "auto", "clear": "none", "cursor": "auto", "content": "normal", "object-fit": "fill", "order": 0.0,
    "justify-content": "normal", "align-items": "normal", "rotate": "none", "scale": "none", "translate": "none",
    **{f"margin-{side}": 0.0 for side in SIDES}, **{f"padding-{side}": 0.0 for side in SIDES},
    **{f"border-{side}-width": 3.0 for side in SIDES}, **{f"border-{side}-style": "none" for side in SIDES},
    **{f"border-{side}-color": "currentcolor" for side in SIDES},
    **{f"border-{corner}-radius": 0.0 for corner in ("top-left", "top-right", "bottom-right", "bottom-left")},
}  # fmt: skip
"""Initial values, worked out, of the longhands that are looked at."""


class Style:
    """The computed values of an element: longhands, physical ones only."""

    __slots__ = ("environment", "fixed_size", "keyword", "lists", "root_size", "said", "table", "width")

    def __init__(
        self,
        said: dict[str, Value],
        environment: Environment,
        width: int,
        root_size: float,
        table: Element | None,
        lists: int,
    ) -> None:
        self.said = said
        """The values that are not initial."""
        self.environment = environment
        """Its custom properties."""
        self.width = width
        """Width of the window in CSS pixels."""
        self.root_size = root_size
        """Font size of the page's root in pixels."""
        self.table = table
        """The table that it is, or stands directly in, or in the rows of."""
        self.fixed_size = False
        """Whether the size of its letters comes from an absolute length: that of one width is not made smaller then."""
        self.keyword = ""
        """The word that the size of its letters comes from, such as ``medium``; empty for a length or a share."""
        self.lists = lists
        """How many lists it stands in, itself counted."""

    def __getitem__(self, name: str) -> Value:
        found = self.said.get(name)
        return INITIAL.get(name, "") if found is None else found

    def border(self, side: str) -> float:
        """Return the width of a border that is drawn, in pixels."""
        return 0.0 if self[f"border-{side}-style"] in ("none", "hidden") else float(self[f"border-{side}-width"])

    def colour(self, name: str) -> Colour:
        """Return a colour; that of the text where it says so."""
        found = self[name]
        return found if isinstance(found, Colour) else self["color"] if name != "color" else Colour(0, 0, 0)
