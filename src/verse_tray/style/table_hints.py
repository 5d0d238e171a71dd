"""What old attributes of a table say of it, of its groups and of its cells (HTML standard, 15.3.10, "Tables")."""

from __future__ import annotations

from verse_tray.markup.tree import Element
from verse_tray.style.attribute_values import integer, legacy_colour
from verse_tray.style.expand import SIDES, expand

_FRAMES = {
    "void": (), "above": ("top",), "below": ("bottom",), "hsides": ("top", "bottom"), "lhs": ("left",),
    "rhs": ("right",), "vsides": ("left", "right"), "box": SIDES, "border": SIDES,
}  # fmt: skip
_RULED_CELLS = {"none": (), "groups": (), "rows": ("top", "bottom"), "cols": ("left", "right"), "all": SIDES}
_GROUPS = frozenset(("thead", "tbody", "tfoot"))
TABLE_ATTRIBUTES = frozenset(("border", "bordercolor", "cellpadding", "frame", "rules"))
"""Attributes of a table that say something of its cells."""


def of_table(attributes: dict[str, str]) -> list[tuple[str, str]]:
    """Return what the attributes of a table say of itself."""
    found: list[tuple[str, str]] = []
    if attributes.get("cellspacing"):
        found.append(("border-spacing", f"{max(0, integer(attributes['cellspacing']) or 0)}px"))
    ruled = attributes.get("rules", "").lower() in _RULED_CELLS
    if ruled:
        found.append(("border-collapse", "collapse"))
    framed = _FRAMES.get(attributes.get("frame", "").lower())
    border = _border(attributes)
    if framed is not None:
        for side in SIDES:
            found += _line(side, "1px solid" if side in framed else "0 hidden")
    elif border:
        found += expand("border", f"{border}px {'solid' if 'bordercolor' in attributes else 'outset'} currentcolor")
    elif ruled:
        for side in SIDES:
            found += _line(side, "0 hidden")
    if colour := legacy_colour(attributes.get("bordercolor")):
        found += expand("border-color", colour)
    return found


def of_part(table: Element, name: str) -> list[tuple[str, str]]:
    """Return what the attributes of a table say of its groups or cells of a name."""
    attributes = table.attributes
    if TABLE_ATTRIBUTES.isdisjoint(attributes):
        return []
    rules = attributes.get("rules", "").lower()
    if name in _GROUPS or name == "colgroup":
        sides = () if rules != "groups" else ("top", "bottom") if name in _GROUPS else ("left", "right")
        return [pair for side in sides for pair in _line(side, "1px solid")]
    found: list[tuple[str, str]] = []
    if name in ("td", "th"):
        if attributes.get("cellpadding"):
            found += expand("padding", f"{max(0, integer(attributes['cellpadding']) or 0)}px")
        if rules in _RULED_CELLS or _border(attributes):
            style = "1px solid" if rules in _RULED_CELLS or "bordercolor" in attributes else "1px inset"
            colour = legacy_colour(attributes.get("bordercolor")) or "inherit"
            for side in _RULED_CELLS.get(rules, SIDES):
                found += _line(side, style)
            found += expand("border-color", colour)
    return found


def _line(side: str, width_and_style: str) -> list[tuple[str, str]]:
    width, style = width_and_style.split(" ")
    return [(f"border-{side}-width", width), (f"border-{side}-style", style)]


def _border(attributes: dict[str, str]) -> int:
    """Return the width of a table's border."""
    if "border" not in attributes:
        return 0
    width = integer(attributes["border"])
    return 1 if width is None or width < 0 else width
