"""Colours: read in any form of CSS, written in the forms that people use, compared as readers see them."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal, NamedTuple

from verse_tray.model.patterns import lazy

Form = Literal["hex", "rgb", "hsl", "name"]
FORMS: tuple[Form, ...] = ("hex", "rgb", "hsl", "name")
"""Forms that a colour can be written in."""

COLOUR = lazy(
    r"#(?:[0-9a-fA-F]{8}|[0-9a-fA-F]{6}|[0-9a-fA-F]{3,4})(?![\w-])|(?<![\w-])(?:rgb|hsl)a?\([^()]*\)"
    r"|(?<![\w.#-])[A-Za-z]{3,20}(?![\w(-])"
)
"""What may be a colour in a value; of words, :func:`parse_colour` tells."""


class Colour(NamedTuple):
    """A colour in sRGB, each part from 0 to 1."""

    red: float
    green: float
    blue: float
    alpha: float = 1.0


@lru_cache(maxsize=1024)
def parse_colour(text: str) -> Colour | None:
    """Read a colour (CSS Color Module Level 4), the nearest of sRGB for one that lies beyond; None for what is none."""
    from tinycss2 import color4

    try:
        found = color4.parse_color(text.strip())
        if found is None or isinstance(found, str):
            return None
        if found.space not in ("srgb", "hsl"):
            return _of_other_space(found)
        found = found.to("srgb")
    except (NotImplementedError, ValueError, TypeError, RecursionError):
        return None
    parts = [min(1.0, max(0.0, float(part or 0))) for part in found.coordinates]
    return Colour(parts[0], parts[1], parts[2], float(found.alpha))


def _of_other_space(found: Any) -> Colour | None:
    from verse_tray.style.colour_spaces import to_srgb

    parts = to_srgb(found.space, [float(part or 0) for part in found.coordinates])
    if parts is None:
        return None
    red, green, blue = (min(1.0, max(0.0, part)) for part in parts)
    return Colour(red, green, blue, float(found.alpha))


def written(colour: Colour, form: Form) -> str:
    """Return a colour in a form; in hex where it has no name, or is seen through."""
    if form == "rgb":
        red, green, blue = (round(part * 255) for part in colour[:3])
        if colour.alpha < 1:
            return f"rgba({red}, {green}, {blue}, {_short(colour.alpha)})"
        return f"rgb({red}, {green}, {blue})"
    if form == "hsl":
        return _hsl(colour)
    if form == "name" and (name := _names().get(_hex(colour))) is not None:
        return name
    return _hex(colour)


def _hex(colour: Colour) -> str:
    parts = colour if colour.alpha < 1 else colour[:3]
    return "#" + "".join(f"{round(part * 255):02x}" for part in parts)


def _hsl(colour: Colour) -> str:
    import colorsys

    hue, light, saturation = colorsys.rgb_to_hls(*colour[:3])
    # one decimal more than whole numbers: with those alone, two in three colours would come back as another
    told = f"{_short(hue * 360, 1)}, {_short(saturation * 100, 1)}%, {_short(light * 100, 1)}%"
    return f"hsla({told}, {_short(colour.alpha)})" if colour.alpha < 1 else f"hsl({told})"


def _short(number: float, digits: int = 3) -> str:
    return f"{number:.{digits}f}".rstrip("0").rstrip(".")


def colour_names() -> frozenset[str]:
    """Return the names of colours that CSS knows."""
    from PIL.ImageColor import colormap

    return frozenset(colormap)


@lru_cache
def _names() -> dict[str, str]:
    """Return the names of CSS by the hex form; of two for one colour, the shorter."""
    found: dict[str, str] = {"#00000000": "transparent"}
    for name in sorted(colour_names(), key=len, reverse=True):
        colour = parse_colour(name)
        if colour is not None:
            found[_hex(colour)] = name
    return found


def contrast(one: Colour, other: Colour) -> float:
    """Return the contrast ratio of two opaque colours, 1 to 21 (WCAG 2.2, "contrast ratio")."""
    light, dark = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def _luminance(colour: Colour) -> float:
    red, green, blue = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in colour[:3])
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def over(colour: Colour, ground: Colour) -> Colour:
    """Return what is seen of a colour on an opaque ground."""
    alpha = colour.alpha
    return Colour(*(top * alpha + below * (1 - alpha) for top, below in zip(colour[:3], ground[:3], strict=True)))
