"""Colours of other spaces in sRGB (CSS Color Module Level 4, section 18, "Sample code for color conversions")."""

from __future__ import annotations

from math import cos, pi, sin

Parts = tuple[float, float, float]

_P3_TO_SRGB = (
    (1.2249401763, -0.2249401763, 0.0),
    (-0.0420569547, 1.0420569547, 0.0),
    (-0.0196375546, -0.0786360456, 1.0982736001),
)
_D50_TO_SRGB = (
    (3.1341359569, -1.6173863321, -0.4906619460),
    (-0.9787954765, 1.9162543774, 0.0334427366),
    (0.0719554012, -0.2289768264, 1.4053860352),
)
_OKLAB_TO_CONES = (
    (1.0, 0.3963377774, 0.2158037573),
    (1.0, -0.1055613458, -0.0638541728),
    (1.0, -0.0894841775, -1.2914855480),
)
_CONES_TO_SRGB = (
    (4.0767416621, -3.3077115913, 0.2309699292),
    (-1.2684380046, 2.6097574011, -0.3413193965),
    (-0.0041960863, -0.7034186147, 1.7076147010),
)


def to_srgb(space: str, parts: list[float]) -> Parts | None:
    """Return a colour of another space in sRGB, perhaps out of its bounds; None for a space that is not known.

    Args:
        space: Its name, as in ``oklch``.
        parts: Its coordinates as CSS counts them: lightness of ``lab`` to 100, of ``oklab`` to 1, hues in degrees.
    """
    if space in ("lch", "oklch"):
        light, chroma, hue = parts
        space, parts = space.replace("lch", "lab"), [light, chroma * cos(hue * pi / 180), chroma * sin(hue * pi / 180)]
    if space == "lab":
        return _encoded(_times(_D50_TO_SRGB, _lab_to_xyz(*parts)))
    if space == "oklab":
        return _encoded(_times(_CONES_TO_SRGB, _cubed(_times(_OKLAB_TO_CONES, _three(parts)))))
    if space == "display-p3":
        return _encoded(_times(_P3_TO_SRGB, _three([_decoded(part) for part in parts])))
    if space == "srgb-linear":
        return _encoded(_three(parts))
    if space == "hwb":
        return _of_hwb(*parts)
    return None


def _three(parts: list[float]) -> Parts:
    one, two, three = parts
    return one, two, three


def _times(matrix: tuple[Parts, ...], parts: Parts) -> Parts:
    return _three([sum(each * part for each, part in zip(row, parts, strict=True)) for row in matrix])


def _cubed(parts: Parts) -> Parts:
    return _three([part**3 for part in parts])


def _lab_to_xyz(light: float, a: float, b: float) -> Parts:
    y = (light + 16) / 116
    found = [n**3 if n**3 > 216 / 24389 else (116 * n - 16) * 27 / 24389 for n in (y + a / 500, y, y - b / 200)]
    return found[0] * 0.9642956764, found[1], found[2] * 0.8251046025


def _encoded(parts: Parts) -> Parts:
    return _three([part * 12.92 if part <= 0.0031308 else 1.055 * part ** (1 / 2.4) - 0.055 for part in parts])


def _decoded(part: float) -> float:
    return part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4


def _of_hwb(hue: float, white: float, black: float) -> Parts:
    white, black = white / 100, black / 100
    if white + black >= 1:
        grey = white / (white + black)
        return grey, grey, grey
    turns = [((hue / 60) + at) % 6 for at in (0, 4, 2)]
    pure = [max(0.0, min(1.0, abs(turn - 3) - 1)) for turn in turns]
    return _three([part * (1 - white - black) + white for part in pure])
