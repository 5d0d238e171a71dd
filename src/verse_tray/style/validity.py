"""Whether browsers take a declaration: a property that they know, with a value that it allows.

What is wrong for certain is told as wrong; where the grammar of a property is richer than words side by side, it is
taken for right (CSS Values and Units Level 4; the words and types of each property are read from a browser).
"""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.model.patterns import lazy
from verse_tray.style.colours import parse_colour
from verse_tray.style.property_table import Values, canonical, is_known, longhands, values_of
from verse_tray.style.values import has_commas, words

CSS_WIDE = frozenset(("inherit", "initial", "unset", "revert", "revert-layer"))
"""Keywords that every property takes (CSS Cascading and Inheritance Level 5, section 7)."""

_NUMBER = lazy(r"([+-]?)(\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?([a-z%]*)", re.IGNORECASE | re.ASCII)
_ADDRESS = lazy(r"""(?:url|src)\(\s*(?:"[^"]*"|'[^']*'|(?:[^\s"'()\\]|\\.)*)\s*\)?""", re.IGNORECASE | re.DOTALL)
_QUOTED = lazy(r"\"[^\"]*\"|'[^']*'")
_SIDE = lazy(r"(?<![\w-])(?:repeating-)?linear-gradient\(\s*(top|bottom|left|right)\b", re.IGNORECASE)
_OLD = lazy(r"[a-z-]+\([^\"'()]*=[^\"'()]*\)", re.IGNORECASE)
_POWER = lazy(r"(\d)e[+-]?(?=\d)", re.IGNORECASE)  # of ten
_GLUED = lazy(r"[\w%)]\s*[+-](?=[\d.(])")
_LENGTHS = frozenset(
    "px em rem pt pc in cm mm q ex rex ch rch cap rcap ic ric lh rlh vw vh vi vb vmin vmax svw svh lvw lvh dvw dvh svi "
    "svb lvi lvb dvi dvb svmin svmax lvmin lvmax dvmin dvmax cqw cqh cqi cqb cqmin cqmax".split()
)
_ANGLES, _TIMES = frozenset(("deg", "rad", "grad", "turn")), frozenset(("s", "ms"))
_NUMERIC = frozenset("length negative percentage zero integer number below time angle share".split())
_SUMS = frozenset(
    "calc min max clamp round mod rem sin cos tan asin acos atan atan2 pow sqrt hypot log exp abs sign".split()
)
_LATER = frozenset(("var", "env", "attr", "if", "--"))  # what they stand for is known on the element only
_COLOURS = frozenset("rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix light-dark".split())
_SYSTEM_COLOURS = frozenset(
    "currentcolor transparent accentcolor accentcolortext activetext buttonborder buttonface buttontext canvas "
    "canvastext field fieldtext graytext highlight highlighttext linktext mark marktext selecteditem selecteditemtext "
    "visitedtext -webkit-link -webkit-text".split()
)
_IMAGES = frozenset(
    "linear-gradient radial-gradient conic-gradient repeating-linear-gradient repeating-radial-gradient "
    "repeating-conic-gradient -webkit-linear-gradient -webkit-radial-gradient image-set -webkit-image-set cross-fade "
    "paint".split()
)
_COMMON = frozenset(("attr", "anchor", "anchor-size", "image-set", "cross-fade", "element", "-webkit-gradient"))
_ALSO = {
    "white-space": frozenset("normal pre pre-wrap pre-line nowrap break-spaces".split()),
    "font": frozenset("caption icon menu message-box small-caption status-bar".split()),
    "flex": frozenset(("none",)),
    "container": frozenset(("none",)),
    "text-box": frozenset(("normal",)),
    "fill": frozenset(("none", "context-fill", "context-stroke")),
    "stroke": frozenset(("none", "context-fill", "context-stroke")),
    "accent-color": frozenset(("auto",)),
    "caret-color": frozenset(("auto",)),
}
"""Words of shorthands that none of their longhands takes, and of colours that are none."""
_AT_BREAKS = frozenset("auto always avoid left right".split())
PAGE_BREAKS = {
    "page-break-before": _AT_BREAKS, "page-break-after": _AT_BREAKS, "page-break-inside": frozenset(("auto", "avoid"))
}  # fmt: skip
"""Words of properties of old that set others, which have other words."""
_MOST_WORDS = {
    "margin": 4, "padding": 4, "inset": 4, "border-width": 4, "border-style": 4, "border-color": 4, "border": 3,
    "border-top": 3, "border-right": 3, "border-bottom": 3, "border-left": 3, "outline": 3, "list-style": 3,
    "overflow": 2, "gap": 2, "flex": 3, "flex-flow": 2, "border-radius": 8, "columns": 2, "margin-inline": 2,
    "margin-block": 2, "padding-inline": 2, "padding-block": 2, "inset-inline": 2, "inset-block": 2,
}  # fmt: skip
_SIDE_BY_SIDE = _MOST_WORDS.keys() | frozenset(
    "grid-template-columns grid-template-rows text-decoration place-items place-content place-self transform "
    "transform-origin object-position".split()
)
_SINGLE = frozenset(
    "color width height min-width min-height max-width max-height top right bottom left font-size font-weight "
    "line-height letter-spacing word-spacing float clear visibility opacity z-index order position flex-grow "
    "flex-shrink flex-basis flex-direction flex-wrap row-gap column-gap box-sizing".split()
)
_SINGLE_BEGIN = ("margin-", "padding-", "scroll-margin-", "scroll-padding-")
_SINGLE_END = ("-width", "-color", "-style")
_FREE = frozenset(
    "grid grid-area grid-template animation transition mask font-synthesis offset border-spacing mask-position "
    "contain-intrinsic-size".split()
)


@lru_cache(maxsize=8192)
def is_valid(name: str, value: str) -> bool:
    """Tell whether browsers take a declaration; what is beyond this page's knowledge is taken for right.

    Args:
        name: The property, lower case; custom properties as typed.
        value: Its value, white space folded, without ``!important``.
    """
    if name.startswith("--"):
        return True
    if not value:
        return False
    if name in PAGE_BREAKS:  # words of their own, though they set another property
        return value.lower() in PAGE_BREAKS[name] | CSS_WIDE | {"revert-rule"}
    name = canonical(name)
    if not is_known(name):
        return name.startswith("-webkit-")  # more of them are known than were asked for
    lowered = value.lower()
    if lowered in CSS_WIDE or lowered == "revert-rule":
        return True
    if name == "all":
        return False
    if lowered in _ALSO.get(name, ()):
        return True
    found = words(value)
    if not found or name in _FREE or any(_function(word) in _LATER or word.startswith("--") for word in found):
        return True
    if takes_no_commas(name) and has_commas(value):
        return False
    if name == "font-family" and lacks_comma(value):
        return False
    allowed = values_of(name)
    if allowed is not None:
        return _is_valid_longhand(allowed, found, single=_is_single(name))
    return _is_valid_shorthand(name, found)


def takes_no_commas(name: str) -> bool:
    """Tell whether the parts of a property's value stand side by side always, as those of ``margin`` do."""
    return name in _SIDE_BY_SIDE


def _is_single(name: str) -> bool:
    """Tell whether the value of a longhand is one word always."""
    return (
        name in _SINGLE
        or name.startswith(_SINGLE_BEGIN)
        or name.endswith("-color")
        or (name.startswith("border-") and name.endswith(_SINGLE_END))
    )


def _is_valid_longhand(allowed: Values, found: list[str], *, single: bool) -> bool:
    return _takes(allowed, found[0]) if len(found) == 1 else not (single and not allowed.several)


def _is_valid_shorthand(name: str, found: list[str]) -> bool:
    if len(found) > _MOST_WORDS.get(name, 1000):
        return False
    parts = [values for each in longhands(name) if (values := values_of(each)) is not None]
    if name == "font":
        if len(found) == 1:
            return found[0].lower() in _ALSO["font"]
        return any(_is_size(word) for word in found)
    also = _ALSO.get(name, frozenset())
    return all(word.lower() in also or any(_takes(values, word) for values in parts) for word in found)


def _is_size(word: str) -> bool:
    sizes = values_of("font-size")
    return sizes is not None and _takes(sizes, word)


def _function(word: str) -> str:
    return word.partition("(")[0].lower() if "(" in word else ""


def _takes(allowed: Values, word: str) -> bool:
    """Tell whether a longhand takes a value of one word."""
    lowered = word.lower()
    first = word[0]
    if first.isdigit() and len(word) > 200:  # some number or other
        return bool(allowed.types & _NUMERIC)
    if first in "\"'":
        return "string" in allowed.types
    if first == "#":
        return "colour" in allowed.types and parse_colour(word) is not None
    if number := _NUMBER.fullmatch(lowered):
        return _takes_number(allowed, number[1], number[2], number[3])
    if function := _function(word):
        return _takes_function(allowed, function, word)
    if lowered in allowed.words or "own" in allowed.types:
        return True
    return "colour" in allowed.types and (lowered in _SYSTEM_COLOURS or parse_colour(word) is not None)


def _takes_number(allowed: Values, sign: str, digits: str, unit: str) -> bool:
    types = allowed.types
    nothing = not digits.strip("0.")
    if not unit:
        if nothing and "zero" in types:
            return True
        kind = "integer" if "." not in digits else "number"
        return (kind in types or "number" in types) and (sign != "-" or nothing or "below" in types)
    if unit in _LENGTHS:
        return "length" in types and (sign != "-" or nothing or "negative" in types)
    if unit == "%":
        return "percentage" in types and (sign != "-" or nothing or "negative" in types or "below" in types)
    if unit in _ANGLES:
        return "angle" in types
    if unit in _TIMES:
        return "time" in types
    return unit == "fr" and "share" in types


def _takes_function(allowed: Values, function: str, word: str) -> bool:
    types = allowed.types
    if function == "url" or function == "src":
        return ("address" in types or not types) and _ADDRESS.fullmatch(word) is not None
    if function.endswith("linear-gradient") and function[0] != "-" and begins_of_old(word):
        return False
    if "=" in word and _OLD.fullmatch(word):  # as in alpha(opacity=50)
        return False
    if function in _SUMS:
        return bool(types & _NUMERIC) and not is_glued(word)
    if function in _COLOURS:
        return "colour" in types and (function not in ("rgb", "rgba", "hsl", "hsla") or _may_be_colour(word))
    if function in _IMAGES:
        return "image" in types or "address" in types
    if function in {each.lower() for each in allowed.functions}:
        return True
    if not allowed.types and allowed.words <= {"none", "revert-rule"}:  # shadows, filters, shapes
        return True
    # a family of functions of which not every member was tried
    return bool(allowed.functions - _COMMON)


def lacks_comma(value: str) -> bool:
    """Tell whether the name of a font in quotes and another stand side by side, as in ``"Georgia" serif``."""
    if '"' not in value and "'" not in value:
        return False
    return any('"' in name and name.strip() != '"' for name in _QUOTED.sub('"', value).split(","))


def begins_of_old(value: str) -> str:
    """Return the side where a gradient of old begins, as in ``linear-gradient(top, red, blue)``; empty for others."""
    found = _SIDE.search(value)
    return found[1].lower() if found else ""


def is_glued(value: str) -> bool:
    """Tell whether a sum in a value lacks a blank around one of its signs, as in ``calc(100%-20px)``."""
    return "--" not in value and _GLUED.search(_POWER.sub(r"\1", value)) is not None


def _may_be_colour(word: str) -> bool:
    inner = word.lower()
    return "var(" in inner or "from " in inner or "calc(" in inner or parse_colour(word) is not None
