"""Computed values: what a declaration comes to on an element (CSS Cascading and Inheritance Level 5, section 4)."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache

from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.style.cascade import Winners
from verse_tray.style.colours import Colour, parse_colour
from verse_tray.style.computed_style import INITIAL, Style, Value
from verse_tray.style.defaults import LISTS, own_style
from verse_tray.style.expand import expand
from verse_tray.style.hints import has_hints, hints
from verse_tray.style.property_table import inherited
from verse_tray.style.table_hints import of_part
from verse_tray.style.validity import is_valid
from verse_tray.style.values import words
from verse_tray.style.variables import Environment, environment_of, substituted, summed

_LENGTHS = frozenset(
    name
    for name in INITIAL
    if name.startswith(("margin-", "padding-", "min-", "max-", "border-")) and not name.endswith(("style", "color"))
) | frozenset(
    "width height letter-spacing word-spacing text-indent column-gap row-gap flex-basis top left right bottom "
    "column-width vertical-align".split()
)
_COLOURS = frozenset(name for name in INITIAL if name.endswith("color"))
_NUMBERS = frozenset(("opacity", "flex-grow", "order"))
_SIZES = {
    "xx-small": 9.0, "x-small": 10.0, "small": 13.0, "medium": 16.0, "large": 18.0, "x-large": 24.0, "xx-large": 32.0,
    "xxx-large": 48.0,
}  # fmt: skip
_FIXED_SIZES = {
    "xx-small": 9.0, "x-small": 10.0, "small": 12.0, "medium": 13.0, "large": 16.0, "x-large": 20.0, "xx-large": 26.0,
    "xxx-large": 39.0,
}  # fmt: skip
"""The same for letters of one width."""
_THICKNESS = {"thin": 1.0, "medium": 3.0, "thick": 5.0}
_UNITS = {
    "px": 1.0, "pt": 4 / 3, "pc": 16.0, "in": 96.0, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "rem": 16.0,
}  # fmt: skip
_OF_FONT = {"em": 1.0, "ch": 0.5, "ex": 0.5, "cap": 0.7, "ic": 1.0}
_LONGEST = 200  # signs of a length that is worked out
_LENGTH = lazy(r"([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z%]*)")
_IN_SUM = lazy(r"(?<![\w.])(\d+\.?\d*|\.\d+)(px|pt|pc|in|cm|mm|q|r?em|ch|ex|vw|vh)\b")


def first_style(width: int) -> Style:
    """Return the style around a page's root, for a window of that width in CSS pixels."""
    first = Style({}, {}, width, 16.0, None, 0)
    first.keyword = "medium"
    return first


def computed(element: Element, parent: Style, winners: Winners, *, where: str = "") -> Style:
    """Work out the computed values of an element.

    Args:
        element: The element.
        parent: The style of what it stands in.
        winners: Its winning declarations for that window, see :func:`verse_tray.style.cascade.winners_of`.
        where: A state or pseudo-element: the values of it, of which the element is the parent.
    """
    kept = inherited()
    took = {name: value for name, value in parent.said.items() if name in kept}
    own: dict[str, str] = {}
    table = parent.table if element.name in _PARTS_OF_TABLES else None
    if not where:
        own.update(own_style(element, parent.lists))
        if has_hints(element):
            own.update(hints(element))
        if table is not None:
            own.update(of_part(table, element.name))
    leftward = own.get("direction", took.get("direction")) == "rtl"
    if leftward and element.name in _INDENTED and not where:
        for space in ("padding", "margin"):
            left, right = own.pop(f"{space}-left", ""), own.pop(f"{space}-right", "")
            own.update({f"{space}-{side}": each for side, each in (("right", left), ("left", right)) if each})
    default = dict(own)
    environment = environment_of(parent.environment, _custom(winners, where))
    for name, value in _plain(winners, where):
        _take(name, value, own, default, environment, own.get("direction", took.get("direction")) == "rtl")
    lists = parent.lists + (element.name in LISTS)
    around = element if element.name == "table" else table
    style = Style(took, environment, parent.width, parent.root_size, around, lists)
    _work_out(own, style, parent)
    _settle(took, parent["display"], root=element.name == "html", alone=not where)
    if element.name == "html":
        style.root_size = style["font-size"]
    if element.name == "th" and own.get("text-align") == "-internal-center":
        took["text-align"] = "center" if parent["text-align"] == "start" else parent["text-align"]
    elif element.name == "table" and str(took.get("text-align", "")).startswith("-webkit-"):
        took["text-align"] = "start"  # where a table stands is not where the text in it does
    return style


_PARTS_OF_TABLES = frozenset("thead tbody tfoot tr td th colgroup".split())
_OUTER = {
    "inline": "block",
    "inline-block": "block",
    "inline-flex": "flex",
    "inline-grid": "grid",
    "inline-table": "table",
}


def _settle(said: dict[str, Value], around: str, *, root: bool, alone: bool) -> None:
    """Let values follow from one another: what floats is a block, what scrolls one way does so the other way too."""
    display = said.get("display", "inline")
    lifted = said.get("float", "none") != "none" or said.get("position") in ("absolute", "fixed")
    if said.get("position") in ("absolute", "fixed"):
        said.pop("float", None)
    if lifted or root or (alone and around in ("flex", "inline-flex", "grid", "inline-grid")):
        display = _OUTER.get(display, "block" if display.startswith("table-") else display)
        said["display"] = display
    ways = [said.get(f"overflow-{way}", "visible") for way in "xy"]
    if ways != ["visible", "visible"] and not set(ways) <= {"visible", "clip"}:
        for way, other in zip("xy", ways, strict=True):
            said[f"overflow-{way}"] = {"visible": "auto", "clip": "hidden"}.get(other, other)


_INDENTED = LISTS | {"dd"}


def _custom(winners: Winners, where: str) -> dict[str, str]:
    return {name: value for name, (value, _) in winners.items() if name[:2] == "--" and " " not in name and not where}


def _plain(winners: Winners, where: str) -> Iterable[tuple[str, str]]:
    for place, (value, _) in winners.items():
        name, _, rest = place.partition(" ")
        if rest == where and name[:2] != "--":
            yield name, value


def _take(
    name: str, value: str, own: dict[str, str], default: dict[str, str], environment: Environment, leftward: bool
) -> None:
    """Write a declaration into the longhands that it sets."""
    if name == "all":
        for each in {*own, *INITIAL} - {"direction", "unicode-bidi"}:
            own[each] = value if value.lower() != "revert" else default.get(each, "unset")
        return
    if "var(" in value.lower():
        found = substituted(value, environment)
        # a value that turns out wrong only now is as if it were unset (CSS Variables, "invalid at computed-value time")
        value = "unset" if found is None or not is_valid(name, found) else found
    if "calc(" in value.lower():
        value = summed(value)
    for longhand, part in expand(name, value, right_to_left=leftward):
        if part.lower() in ("revert", "revert-layer"):
            part = default.get(longhand, "unset")
        own[longhand] = part


def _work_out(own: dict[str, str], style: Style, parent: Style) -> None:
    """Write longhands with their computed values into a style that holds what is inherited."""
    values = style.said
    if "font-family" in own:
        _one("font-family", own.pop("font-family"), values, style, parent)
    _size_letters(own, style, parent)
    for first in ("font-size", "color"):
        if first in own:
            _one(first, own.pop(first), values, style, parent)
    for name, value in own.items():
        _one(name, value, values, style, parent)


def _size_letters(own: dict[str, str], style: Style, parent: Style) -> None:
    """Work out the size of letters where those of one width begin or end: browsers draw them smaller."""
    typed = own.get("font-size", "").lower()
    if typed in ("initial", "inherit", "unset"):
        typed = "medium" if typed == "initial" else ""
    style.keyword = typed if typed in _SIZES else "" if typed else parent.keyword
    style.fixed_size = not style.keyword and (parent.fixed_size or _is_absolute(typed))
    pitch = _fixed_pitch(style)
    if style.keyword:
        own.pop("font-size", None)
        style.said["font-size"] = (_SIZES if pitch == 1 else _FIXED_SIZES)[style.keyword]
    elif (scale := pitch / _fixed_pitch(parent)) != 1 and not style.fixed_size:
        size = _font_size(own.pop("font-size", "1em").lower(), parent, style)
        style.said["font-size"] = round(size * scale, 4)


def _fixed_pitch(style: Style) -> float:
    """Return the share of the usual size that browsers give letters of one width where nothing but those is named."""
    return 13 / 16 if style["font-family"].strip().lower() == "monospace" else 1.0


def _is_absolute(size: str) -> bool:
    match = _LENGTH.fullmatch(size[:_LONGEST])
    return "px" in size if match is None else match[2] in _UNITS and match[2] != "rem"


def _one(name: str, value: str, values: dict[str, Value], style: Style, parent: Style) -> None:
    lowered = value.lower()
    if lowered == "unset":
        lowered = "inherit" if name in inherited() else "initial"
    if lowered == "inherit":
        found = parent.said.get(name)
    elif lowered == "initial":
        found = None
    elif name == "font-size":
        found = _font_size(lowered, parent, style)
    elif name in _COLOURS:
        found = _colour(name, lowered, parent)
    elif name in _LENGTHS:
        found = _length(name, lowered, style)
    elif name == "font-weight":
        found = _weight(lowered, parent["font-weight"])
    elif name == "line-height":
        found = _line_height(lowered, style)
    elif name in _NUMBERS:
        found = _number(lowered)
    elif name == "font-family":
        found = value
    else:
        found = lowered if name not in ("content", "background-image", "animation-name") else value
    if found is None or found == INITIAL.get(name):
        values.pop(name, None)
    else:
        values[name] = found


def _colour(name: str, value: str, parent: Style) -> Value:
    if value == "currentcolor":  # it stays one: what inherits it takes the colour of its own text
        return parent["color"] if name == "color" else value
    return _parsed(value)


@lru_cache(maxsize=2048)
def _parsed(value: str) -> Value:
    found = parse_colour(value)
    if found is None:
        return {"canvas": Colour(1, 1, 1), "canvastext": Colour(0, 0, 0), "linktext": Colour(0, 0, 0.933)}.get(
            value, value
        )
    return Colour(*(round(part, 4) for part in found))


def _font_size(value: str, parent: Style, style: Style) -> float:
    size: float = parent["font-size"]
    if value in _SIZES:
        return _SIZES[value]
    if value in ("smaller", "larger"):
        return size / 1.2 if value == "smaller" else size * 1.2
    found = _pixels(value, size, style, whole=size)
    return found if isinstance(found, float) and found >= 0 else size


def _length(name: str, value: str, style: Style) -> Value:
    if name.startswith("border-") and value in _THICKNESS:
        return _THICKNESS[value]
    if value == "normal" and name.endswith("-spacing"):
        return 0.0
    if " " in value and name.endswith("-radius"):
        value = value.split()[0]
    return _pixels(value, style["font-size"], style)


def _weight(value: str, around: float) -> float | None:
    if value in ("bolder", "lighter"):
        steps = ((400, 700), (600, 900), (900, 900)) if value == "bolder" else ((600, 100), (800, 400), (1000, 700))
        if value == "bolder":
            return float(400 if around < 350 else 700 if around < 550 else max(900, around))
        return float(next((to for limit, to in steps if around < limit), 700))
    return _number({"normal": "400", "bold": "700"}.get(value, value))


def _line_height(value: str, style: Style) -> Value:
    if value == "normal":
        return value
    number = _number(value)
    if number is not None and not value.endswith("%"):
        return number
    found = _pixels(value, style["font-size"], style, whole=style["font-size"])
    return f"{found:g}px" if isinstance(found, float) else value  # as a length, so that it is inherited as one


def _number(value: str) -> float | None:
    try:
        if value.endswith("%"):
            return float(value[:-1]) / 100
        return float(value) if len(value) < 40 else None
    except ValueError:
        return None


def _pixels(value: str, em: float, style: Style, *, whole: float | None = None) -> Value:
    """Return a length in pixels; its words where it is none, or depends on a layout."""
    if len(value) > _LONGEST:
        return value
    match = _LENGTH.fullmatch(value)
    if match is None:
        if value.startswith(("min(", "max(", "clamp(")):
            return _bounded(value, em, style, whole)
        return _mixed_sum(value, em, style) if value.startswith("calc(") else value
    unit = match[2]
    try:
        number = float(match[1])
    except ValueError:
        return value
    if not unit:
        return 0.0 if number == 0 else value
    if unit == "%":
        return value if whole is None else whole * number / 100
    factor = _factor(unit, em, style)
    return value if factor is None else round(number * factor, 4)


def _bounded(value: str, em: float, style: Style, whole: float | None) -> Value:
    name, _, inner = value.rstrip(")").partition("(")
    found = [_pixels(summed(f"calc({part})"), em, style, whole=whole) for part in words(inner)]
    if not found or not all(isinstance(each, float) for each in found) or (name == "clamp" and len(found) != 3):
        return value
    if name == "clamp":
        return max(found[0], min(found[1], found[2]))
    return min(found) if name == "min" else max(found)


def _factor(unit: str, em: float, style: Style) -> float | None:
    if unit in _OF_FONT:
        return _OF_FONT[unit] * em
    if unit == "rem":
        return style.root_size
    if unit.endswith(("vw", "vi")):
        return style.width / 100
    if unit.endswith(("vh", "vb")):
        return 8.0 if style.width > 600 else 6.67
    return _UNITS.get(unit)


def _mixed_sum(value: str, em: float, style: Style) -> Value:
    def plain(match: re.Match[str]) -> str:
        factor = _factor(match[2], em, style)
        return match[0] if factor is None else f"{float(match[1]) * factor:.6g}px"

    found = summed(_IN_SUM.sub(plain, value))
    return value if found.startswith("calc(") else _pixels(found, em, style)
