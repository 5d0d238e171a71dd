"""Whether a media query holds for readers (Media Queries Level 4), read from the tokens of the CSS parser.

What browsers cannot read has two ends: a query that breaks the grammar never holds; a condition in brackets that means
nothing is unknown, and so is its opposite, and neither counts as held.
"""

from __future__ import annotations

from typing import Any

import tinycss2
import tinycss2.ast

from verse_tray.style.source import readable, too_nested

YES, NO, UNKNOWN, DEPENDS = "yes", "no", "unknown", "depends"
"""Answers: it holds, it does not, browsers cannot tell, and it depends on the reader's window."""
PHONE = 600
"""Width in CSS pixels up to which a window is taken for a phone's."""

_DISCRETE = {
    "prefers-color-scheme": ("light", "dark"),
    "prefers-reduced-motion": ("no-preference", "reduce"),
    "prefers-contrast": ("no-preference", "more", "less", "custom"),
    "prefers-reduced-transparency": ("no-preference", "reduce"),
    "prefers-reduced-data": ("no-preference", "reduce"),
    "scripting": ("enabled", "none", "initial-only"),
    "forced-colors": ("none", "active"),
    "inverted-colors": ("none", "inverted"),
    "update": ("fast", "slow", "none"),
    "color-gamut": ("srgb", "p3", "rec2020"),
    "display-mode": (
        "browser",
        "standalone",
        "fullscreen",
        "minimal-ui",
        "picture-in-picture",
        "window-controls-overlay",
    ),
    "dynamic-range": ("standard", "high"),
    "video-dynamic-range": ("standard", "high"),
    "overflow-block": ("scroll", "none", "paged"),
    "overflow-inline": ("scroll", "none"),
    "scan": ("progressive", "interlace"),
}
"""The words that a feature takes; the first is what a reader's screen is taken for."""
_POINTING = {
    "hover": ("hover", "none"), "any-hover": ("hover", "none"), "pointer": ("fine", "coarse", "none"),
    "any-pointer": ("fine", "coarse", "none"),
}  # fmt: skip
_TOUCHED = {"hover": "none", "any-hover": "none", "pointer": "coarse", "any-pointer": "coarse"}
_NOTHING = frozenset(("none", "no-preference"))
_LENGTHS = frozenset(("width", "height", "device-width", "device-height"))
_OF_CONTAINERS = {"inline-size": "width", "block-size": "height"}
_RATIOS = frozenset(("aspect-ratio", "device-aspect-ratio"))
_NUMBERS = {"color": 8, "color-index": 0, "monochrome": 0}
_ELSEWHERE = frozenset(
    "device-posture environment-blending nav-controls shape video-color-gamut horizontal-viewport-segments "
    "vertical-viewport-segments".split()
)
"""Features that are left to the browsers that know them."""
_GRID = "grid"
WORDS = {**_DISCRETE, **_POINTING, "orientation": ("portrait", "landscape")}
"""The words that a feature takes, by its name."""
FEATURES = frozenset(
    f"{bound}{name}" for bound in ("", "min-", "max-") for name in (*_LENGTHS, *_RATIOS, *_NUMBERS, "resolution")
) | frozenset((*WORDS, *_ELSEWHERE, _GRID))
"""The names of all features."""
_PIXELS = {"px": 1.0, "em": 16.0, "rem": 16.0, "pt": 96 / 72, "pc": 16.0, "in": 96.0, "cm": 96 / 2.54, "mm": 9.6 / 2.54,
           "q": 2.4 / 2.54}  # fmt: skip
_OF_THE_WINDOW = frozenset("vh vmin vmax vb svh lvh dvh ex ch cap ic lh rlh rex rch vi svw lvw dvw".split())
_RESOLUTIONS = frozenset(("dppx", "x", "dpi", "dpcm"))
_SIGNS = {
    "<": lambda one, other: one < other, "<=": lambda one, other: one <= other, "=": lambda one, other: one == other,
    ">": lambda one, other: one > other, ">=": lambda one, other: one >= other,
}  # fmt: skip
_TURNED = {"<": ">", "<=": ">=", "=": "=", ">": "<", ">=": "<="}


def media_holds(prelude: str, width: int | None) -> bool | None:
    """Tell whether a list of media queries holds on a screen.

    Args:
        prelude: The queries, as they stand behind ``@media``.
        width: Width of the window in CSS pixels; None where it is not known.

    Returns:
        None where that depends on the reader's window.
    """
    tokens = _tokens(prelude)
    if not tokens:
        return True
    answers = [_query(each, width) for each in _split(tokens)]
    return True if YES in answers else None if DEPENDS in answers else False


def container_holds(condition: str, width: int | None) -> bool | None:
    """Tell the same of a container's condition; its width is taken for the window's."""
    answer = _condition(_tokens(condition), width, either=True, container=True)
    return {YES: True, DEPENDS: None}.get(answer or NO, False)


def _tokens(text: str) -> list[Any]:
    if too_nested(text):
        return [tinycss2.ast.ParseError(1, 1, "invalid", "nested beyond reason")]
    read = tinycss2.parse_component_value_list(readable(text), skip_comments=True)
    return [each for each in read if each.type != "whitespace"]


def _split(tokens: list[Any]) -> list[list[Any]]:
    queries: list[list[Any]] = [[]]
    for token in tokens:
        if token == ",":
            queries.append([])
        else:
            queries[-1].append(token)
    return queries


def _word(tokens: list[Any], at: int) -> str:
    """Return the word that stands there, small; empty where none does."""
    return str(tokens[at].lower_value) if at < len(tokens) and tokens[at].type == "ident" else ""


def _query(tokens: list[Any], width: int | None) -> str:
    first = _word(tokens, 0)
    at = 1 if first in ("not", "only") and _word(tokens, 1) else 0
    kind = _word(tokens, at)
    if not kind or (not at and first in ("not", "only")):
        return _condition(tokens, width, either=True) or NO
    if kind in ("not", "only", "and", "or", "layer"):
        return NO
    answer = YES if kind in ("all", "screen") else NO
    if len(tokens) > at + 1:
        if _word(tokens, at + 1) != "and":
            return NO
        inner = _condition(tokens[at + 2 :], width, either=False)
        if inner is None:
            return NO
        answer = _all([answer, inner])
    return _opposite(answer) if at and first == "not" else answer


def _condition(tokens: list[Any], width: int | None, *, either: bool, container: bool = False) -> str | None:
    """Return the answer of a condition; None if it breaks the grammar."""
    if _word(tokens, 0) == "not":
        inner = _in_brackets(tokens[1], width, container) if len(tokens) == 2 else None
        return None if inner is None else _opposite(inner)
    if not tokens or len(tokens) % 2 == 0:
        return None
    answers = [_in_brackets(each, width, container) for each in tokens[::2]]
    words = {_word(tokens, at) for at in range(1, len(tokens), 2)}
    if len(words) > 1 or not words <= ({"and", "or"} if either else {"and"}):
        return None
    known = [each for each in answers if each is not None]
    if len(known) < len(answers):
        return None
    return _opposite(_all([_opposite(each) for each in known])) if words == {"or"} else _all(known)


def _in_brackets(token: Any, width: int | None, container: bool) -> str | None:
    if token.type == "function":
        return UNKNOWN
    if token.type != "() block":
        return None
    tokens = [each for each in token.content if each.type not in ("whitespace", "comment")]
    if tokens and (tokens[0].type in ("() block", "function") or _word(tokens, 0) == "not"):
        return _condition(tokens, width, either=True, container=container) or _feature(tokens, width, container)
    return _feature(tokens, width, container)


def _all(answers: list[str]) -> str:
    return next((each for each in (NO, DEPENDS, UNKNOWN) if each in answers), YES)


def _opposite(answer: str) -> str:
    return {YES: NO, NO: YES}.get(answer, answer)


def _feature(tokens: list[Any], width: int | None, container: bool) -> str:
    parts: list[list[Any]] = [[]]
    signs: list[str] = []
    for token in tokens:
        if token.type == "literal" and token.value in (":", "<", ">", "=", "<=", ">="):
            if token.value == "=" and signs and signs[-1] in ("<", ">") and not parts[-1]:
                signs[-1] += "="
            else:
                signs.append(token.value)
                parts.append([])
        else:
            parts[-1].append(token)
    names = [_word(part, 0) if len(part) == 1 else "" for part in parts]
    if not signs:
        return _asked(names[0], width, container)
    if signs == [":"]:
        bound, name = names[0][:4], names[0]
        if name.removeprefix("-webkit-")[:4] in ("min-", "max-") and name.endswith("-device-pixel-ratio"):
            return DEPENDS if len(parts[1]) == 1 and parts[1][0].type == "number" else UNKNOWN
        if bound in ("min-", "max-"):
            return _compared(name[4:], ">=" if bound == "min-" else "<=", parts[1], width, container)
        return _compared(name, ":", parts[1], width, container)
    if ":" in signs or len(signs) > 2:
        return UNKNOWN
    if len(signs) == 2:
        if signs[0][0] != signs[1][0] or signs[0] == "=":
            return UNKNOWN
        both = [
            _compared(names[1], _TURNED[signs[0]], parts[0], width, container),
            _compared(names[1], signs[1], parts[2], width, container),
        ]
        return UNKNOWN if UNKNOWN in both else _all(both)
    forward = _compared(names[0], signs[0], parts[1], width, container)
    return forward if forward != UNKNOWN else _compared(names[1], _TURNED[signs[0]], parts[0], width, container)


def _asked(name: str, width: int | None, container: bool) -> str:
    """Return the answer of a feature that stands alone: whether there is any of it."""
    name = _OF_CONTAINERS.get(name, name) if container else name
    if name in _LENGTHS or name in _RATIOS or name == "resolution":
        return YES
    if name in _NUMBERS:
        return YES if _NUMBERS[name] else NO
    if name == _GRID:
        return NO
    if name == "orientation":
        return YES
    usual = _usual(name, width)
    return UNKNOWN if usual is None else NO if usual in _NOTHING else YES


def _usual(name: str, width: int | None) -> str | None:
    """Return the word that holds for readers."""
    if name in _POINTING:
        return _TOUCHED[name] if width is not None and width <= PHONE else _POINTING[name][0]
    return _DISCRETE[name][0] if name in _DISCRETE else None


def _compared(name: str, sign: str, value: list[Any], width: int | None, container: bool) -> str:
    """Return the answer of a feature that is held against a value."""
    name = _OF_CONTAINERS.get(name, name) if container else name
    if name in _LENGTHS:
        return _length(name, "=" if sign == ":" else sign, value, width)
    if name in _RATIOS:
        return DEPENDS if _is_ratio(value) else UNKNOWN
    if name == "resolution":
        return DEPENDS if len(value) == 1 and _unit(value[0]) in _RESOLUTIONS else UNKNOWN
    if name in _NUMBERS or (name == _GRID and sign == ":"):
        number = value[0] if len(value) == 1 and value[0].type == "number" and value[0].is_integer else None
        if number is None:
            return UNKNOWN
        return YES if _SIGNS["=" if sign == ":" else sign](_NUMBERS.get(name, 0), number.value) else NO
    if sign != ":" or len(value) != 1:
        return UNKNOWN
    word = _word(value, 0)
    if name == "orientation":
        return DEPENDS if word in ("portrait", "landscape") else UNKNOWN
    if word not in _POINTING.get(name, ()) and word not in _DISCRETE.get(name, ()):
        return UNKNOWN
    return YES if word == _usual(name, width) else NO


def _unit(token: Any) -> str:
    return str(token.lower_unit) if token.type == "dimension" else ""


def _length(name: str, sign: str, value: list[Any], width: int | None) -> str:
    if len(value) != 1:
        return UNKNOWN
    token = value[0]
    if token.type == "function":
        return DEPENDS if token.lower_name in ("calc", "min", "max", "clamp") else UNKNOWN
    unit = _unit(token)
    if unit in _OF_THE_WINDOW or (unit == "vw" and width is None):
        return DEPENDS
    if token.type == "number" and token.value == 0:
        pixels = 0.0
    elif unit in _PIXELS or unit == "vw":
        pixels = token.value * (_PIXELS[unit] if unit != "vw" else (width or 0) / 100)
    else:
        return UNKNOWN
    if name == "width" and width is not None:
        return YES if _SIGNS[sign](width, pixels) else NO
    return DEPENDS


def _is_ratio(value: list[Any]) -> bool:
    numbers = value[::2]
    return len(value) in (1, 3) and all(each.type == "number" for each in numbers) and value[1:2] in ([], ["/"])
