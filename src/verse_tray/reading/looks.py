"""From computed values to what is seen: looks of text, painted boxes, blocks."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.model.patterns import lazy
from verse_tray.reading.records import Look, Painted
from verse_tray.style.colours import Colour, over, parse_colour
from verse_tray.style.computed_style import Style
from verse_tray.style.expand import SIDES

_MONO = lazy(r"mono|courier|consolas|menlo|console")
_SANS = lazy(
    r"sans|arial|helvetica|verdana|tahoma|system-ui|ui-rounded|segoe|roboto|trebuchet|calibri|impact|futura|"
    r"gill|optima|lato|inter\b|dejavu sans|cursive|fantasy"
)
_STOPS = lazy(r"#[0-9a-f]{3,8}\b|(?:rgb|hsl|hwb|lab|lch|oklab|oklch)a?\([^()]*\)|(?<![\w#-])[a-z]{3,20}(?![\w(-])")
_FAR = 999.0  # pixels beyond which something stands outside of every window
_NO_LINES: frozenset[str] = frozenset()


def kind_of_letters(family: str) -> str:
    """Tell the kind of letters that a list of families gives on a machine that has the first, or the last of them."""
    lowered = family.lower()
    first = lowered.split(",")[0]
    if _MONO.search(first) or lowered.rstrip().endswith("monospace"):
        return "mono"
    if _SANS.search(first):
        return "sans"
    last = lowered.rsplit(",", 1)[-1]
    return "sans" if _SANS.search(last) and first.strip() != "serif" else "serif"


def look_of(style: Style, ground: Colour, lines: frozenset[str]) -> Look:
    """Return how text of a style looks on an opaque ground."""
    size = style["font-size"]
    align: str = style["text-align"]
    leftward = style["direction"] == "rtl"
    if align in ("start", "end"):
        align = "right" if leftward == (align == "start") else "left"
    leading = style["line-height"]
    if leading == "normal":
        leading = 1.15
    elif isinstance(leading, str):
        leading = _number(leading.removesuffix("px"), size * 1.15) / max(size, 1.0)
    spacing = style["letter-spacing"]
    return Look(
        over(style.colour("color"), ground),
        ground,
        size,
        style["font-weight"] >= 600,
        style["font-style"] not in ("normal", ""),
        kind_of_letters(style["font-family"]),
        lines,
        align.removeprefix("-webkit-").removeprefix("-internal-"),
        spacing if isinstance(spacing, float) else 0.0,
        round(leading, 3),
        style["text-shadow"] != "none",
    )


def _number(digits: str, otherwise: float) -> float:
    try:
        return float(digits)
    except ValueError:
        return otherwise


def painted(style: Style) -> Colour:
    """Return the colour that an element paints behind its contents; of a gradient, the mean of its colours."""
    image = style["background-image"]
    if "gradient(" in image.lower():
        stops = [each for each in map(parse_colour, _STOPS.findall(image.lower())) if each is not None]
        if stops:
            red, green, blue, alpha = (sum(part) / len(stops) for part in zip(*stops, strict=True))
            return Colour(red, green, blue, alpha)
    return style.colour("background-color")


def lines_of(style: Style, around: frozenset[str]) -> frozenset[str]:
    """Return the lines drawn with the text of an element: its own, and those around that reach into it."""
    if style["display"].startswith("inline-") or style["float"] != "none" or is_lifted(style):
        around = _NO_LINES
    own = style["text-decoration-line"]
    return around if own in ("none", "") else around | (frozenset(own.split()) & _DRAWN)


_DRAWN = frozenset(("underline", "line-through", "overline"))


def is_lifted(style: Style) -> bool:
    """Tell whether an element stands outside of the flow."""
    return style["position"] in ("absolute", "fixed")


def is_off_screen(style: Style) -> bool:
    """Tell whether what is in an element is put where nobody sees it, or clipped to nothing."""
    indent = style["text-indent"]
    if isinstance(indent, float) and indent < -_FAR:
        return True
    if not is_lifted(style):
        return False
    if any(isinstance(style[side], float) and style[side] < -_FAR for side in SIDES):
        return True
    tiny = all(isinstance(style[side], float) and style[side] <= 1 for side in ("width", "height"))
    clipped = "inset(50%" in style["clip-path"] or re.sub(r"[^0-9a-z]", "", style["clip"]) in _CLIPPED
    return (tiny and style["overflow-x"] in ("hidden", "clip")) or clipped


_CLIPPED = frozenset(("rect0000", "rect0px0px0px0px", "rect1px1px1px1px", "rect1111"))


def box_of(style: Style, ground: Colour, *, filled: bool, item: bool = False) -> Painted | None:
    """Return the box that an element paints.

    Args:
        style: The element's style.
        ground: What is behind it.
        filled: Whether there is anything in it.
        item: Whether it is an item of a flexible box or a grid, which gives it its width.
    """
    colour, image = painted(style), style["background-image"]
    borders = tuple((style.border(side), style.colour(f"border-{side}-color")) for side in SIDES)
    shadow = style["box-shadow"] != "none"
    width, height = (style[side] if isinstance(style[side], float) else 0.0 for side in ("width", "height"))
    if not filled and not _fills_space(style, height):
        return None
    seen = over(colour, ground)
    paints = max(abs(one - other) for one, other in zip(ground[:3], seen[:3], strict=True)) > _HARDLY
    if not paints and image == "none" and not shadow and not any(wide for wide, _ in borders):
        return None
    return Painted(
        seen if paints else None,
        "" if image == "none" else image,
        tuple((wide, over(line, ground) if wide else None) for wide, line in borders),
        _length(style["border-top-left-radius"], 50.0),
        tuple(_length(style[f"padding-{side}"], 16.0) for side in SIDES),
        shadow,
        any(style[name] != "none" for name in ("transform", "filter", "rotate", "scale")),
        (width, height),
        not item
        and style["width"] == "auto"
        and style["display"] in _WIDE
        and style["float"] == "none"
        and not is_lifted(style),
    )


def _is_wide(style: Style) -> bool:
    in_flow = style["float"] == "none" and not is_lifted(style)
    return in_flow and style["width"] == "auto" and style["display"] in _WIDE


_WIDE = frozenset(("block", "flow-root", "list-item", "flex", "grid"))
"""Ways of display in which a box is as wide as its place where nobody says how wide it is."""
_HARDLY = 1.5 / 255  # a difference of colours that no screen shows


def _fills_space(style: Style, height: float) -> bool:
    """Tell whether an element without text takes any place."""
    if style["display"] == "inline" and not is_lifted(style):
        return False
    if any(style.border(side) for side in SIDES) or any(_length(style[f"padding-{side}"], 16.0) for side in SIDES):
        return True
    least = style["min-height"] if height == 0 else height
    return isinstance(least, float) and least > 0


def _length(value: object, share: float) -> float:
    """Return a length; of a share of something that only a layout knows, ``share``."""
    if isinstance(value, float):
        return value
    return share if isinstance(value, str) and value.endswith("%") and value != "0%" else 0.0


class Traits(Struct, frozen=True):
    """What follows from a style alone, worked out once for all elements that share it."""

    is_block: bool
    """Whether neighbours stand beside or below it, not within its line."""
    unseen: str
    """Why nothing of it is shown: ``gone``, or ``spoken`` where it is read out all the same; empty for shown."""
    paints: bool
    """Whether it may paint a box."""
    ground: Colour
    """The colour that it paints, perhaps seen through."""
    model: tuple[str, bool, float, float, float, float, float, bool]
    """The block that it is: the members of :class:`verse_tray.reading.records.Block` from ``display`` on."""
    lines: frozenset[str]
    """The lines that it draws with its text."""
    cut: bool
    """Whether lines from around it end at it."""
    floated: bool
    """Whether it floats at the right."""
    is_plain: bool
    """Whether text in it is shown as it is typed, but for its spaces."""
    is_marked: bool
    """Whether a sign may stand before it, as before an item of a list."""


KEEPS_LINES = ("preserve", "preserve-breaks", "break-spaces")
"""Ways of collapsing white space in which line ends stay."""
_WITHIN_LINES = frozenset(("inline", "contents", "ruby", "ruby-text"))


def traits_of(style: Style) -> Traits:
    """Work out the traits of a style."""
    display = style["display"]
    unseen = "gone" if display == "none" or style["opacity"] == 0 else "spoken" if is_off_screen(style) else ""
    ground = painted(style)
    paints = (
        ground.alpha > 0
        or style["background-image"] != "none"
        or style["box-shadow"] != "none"
        or any(style.border(side) for side in SIDES)
    ) and style["visibility"] == "visible"
    is_block = display not in _WITHIN_LINES
    lines, cut = lines_of(style, _NO_LINES), lines_of(style, _DRAWN) != _DRAWN
    floated = style["float"] == "right"
    model = _model(style) if is_block else _NO_BLOCK
    shown = style["visibility"] == "visible" and style["font-size"] >= 1
    is_plain = shown and style["text-transform"] == "none" and style["white-space-collapse"] not in KEEPS_LINES
    is_marked = "list-style-type" in style.said or display == "list-item"
    return Traits(is_block, unseen, paints, ground, model, lines, cut, floated, is_plain, is_marked)


_NO_BLOCK = ("inline", False, 0.0, 0.0, 0.0, 0.0, 0.0, False)


def _model(style: Style) -> tuple[str, bool, float, float, float, float, float, bool]:
    display = style["display"]
    across, gap = display == "table-row", 0.0
    if display in ("flex", "inline-flex", "-webkit-flex", "-webkit-box"):
        across, gap = not style["flex-direction"].startswith("column"), _length(style["column-gap"], 0.0)
    elif display in ("grid", "inline-grid"):
        across = style["grid-template-columns"] not in ("none", "1fr", "auto", "100%")
        gap = _length(style["column-gap"], 0.0)
    columns = style["column-count"] not in ("auto", "1") or style["column-width"] != "auto"
    before, after, left, right = (_space(style, side) for side in ("top", "bottom", "left", "right"))
    kind = "float" if style["float"] in ("left", "right") else display
    return kind, across or columns, gap, before, after, left, right, is_lifted(style)


def _space(style: Style, side: str) -> float:
    margin = max(0.0, _length(style[f"margin-{side}"], 0.0))
    return margin + _length(style[f"padding-{side}"], 0.0) + style.border(side)
