"""Declarations as longhands: what a shorthand says of each of its parts, and which side a logical one means."""

from __future__ import annotations

from functools import lru_cache

from verse_tray.style.property_table import longhands, values_of
from verse_tray.style.validity import CSS_WIDE, is_valid
from verse_tray.style.values import words

SIDES = ("top", "right", "bottom", "left")
CORNERS = ("top-left", "top-right", "bottom-right", "bottom-left")
_STYLES = frozenset("none hidden solid dashed dotted double groove ridge inset outset".split())
_LOGICAL_SIDES = {"block-start": "top", "block-end": "bottom", "inline-start": "left", "inline-end": "right"}
_LOGICAL_CORNERS = {
    "start-start": "top-left", "start-end": "top-right", "end-start": "bottom-left", "end-end": "bottom-right",
}  # fmt: skip
_LOGICAL_SIZES = {"inline-size": "width", "block-size": "height"}
_INITIAL_WORDS = {
    "background-color": "transparent", "background-image": "none", "text-decoration-line": "none", "flex-grow": "0",
    "flex-shrink": "1", "flex-basis": "auto", "list-style-type": "disc", "list-style-image": "none",
    "list-style-position": "outside",
}  # fmt: skip

Expanded = tuple[tuple[str, str], ...]


@lru_cache(maxsize=8192)
def expand(name: str, value: str, *, right_to_left: bool = False) -> Expanded:
    """Return the longhands that a declaration sets, each with its value; physical ones for logical ones.

    Args:
        name: The property.
        value: A value that browsers take, without ``var()``.
        right_to_left: Whether lines run that way in the element.
    """
    whole = value.lower() in CSS_WIDE
    parts = longhands(name)
    if whole or name.startswith("--"):
        found = tuple((each, value) for each in parts)
    elif len(parts) < 2:
        found = ((name, value),)
    else:
        found = _shorthand(name, value, parts)
    return tuple((_physical(each, right_to_left), part) for each, part in found)


def _physical(name: str, right_to_left: bool) -> str:
    if name in _LOGICAL_SIZES:
        return _LOGICAL_SIZES[name]
    if "-inline" not in name and "-block" not in name and "-start-" not in name and "-end-" not in name:
        return name
    for logical, side in _LOGICAL_SIDES.items():
        if logical in name and name.startswith(("margin", "padding", "border", "inset")):
            if right_to_left and side in ("left", "right"):
                side = "left" if side == "right" else "right"
            return name.replace(logical, side).removeprefix("inset-")
    for logical, corner in _LOGICAL_CORNERS.items():
        if name == f"border-{logical}-radius":
            return f"border-{corner}-radius"
    for size, other in _LOGICAL_SIZES.items():
        if name in (f"min-{size}", f"max-{size}"):
            return name.replace(size, other)
    return name


def _shorthand(name: str, value: str, parts: tuple[str, ...]) -> Expanded:
    found = words(value)
    if not found:  # too long to be looked into
        return tuple((each, value) for each in parts)
    if name in ("margin", "padding", "inset", "border-width", "border-style", "border-color", "scroll-margin"):
        return tuple(zip(_side_names(name), _four(found), strict=True))
    if name == "border-radius":
        across = words(value.partition("/")[0])
        return tuple((f"border-{corner}-radius", each) for corner, each in zip(CORNERS, _four(across), strict=True))
    if name == "font":
        return _font(value, found)
    if name == "background":
        return _background(found)
    if name == "flex":
        return _flex(found)
    if name == "white-space":
        return _white_space(value.lower())
    if len(parts) == 2 and len(found) <= 2 and not {"grid", "text"} & set(name.split("-")):
        return (parts[0], found[0]), (parts[1], found[-1])
    return _by_kind(name, found, parts)


def _side_names(name: str) -> tuple[str, ...]:
    if name == "inset":
        return SIDES
    first, _, last = name.partition("-")
    return tuple(f"{first}-{side}-{last}" if last else f"{first}-{side}" for side in SIDES)


def _four(found: list[str]) -> list[str]:
    """Return the values of four sides, of which the last ones may be left out."""
    top = found[0]
    right = found[1] if len(found) > 1 else top
    return [top, right, found[2] if len(found) > 2 else top, found[3] if len(found) > 3 else right]


def _by_kind(name: str, found: list[str], parts: tuple[str, ...]) -> Expanded:
    """Tell by its kind which longhand each word is of; those that nothing is said of get their initial value."""
    said: dict[str, str] = {}
    for word in found:
        lowered = word.lower()
        kinds = [kind for kind in _kinds(name, parts) if kind not in said and is_valid(kind, word)]
        if lowered == "none" and name in ("text-decoration", "list-style"):
            kinds = [{"text-decoration": "text-decoration-line", "list-style": "list-style-type"}[name]]
        for kind in kinds[:1]:
            said[kind] = word
        if not kinds and name == "text-decoration" and "text-decoration-line" in said:  # underline overline
            said["text-decoration-line"] += f" {word}"
    if name.startswith("border") or name == "outline":
        line = {"width": "medium", "style": "none", "color": "currentcolor"}
        return tuple(
            (each, said.get(_kind_of_line(each), line[each.rpartition("-")[2]]))
            for each in parts
            if each.rpartition("-")[2] in line
        )
    return tuple((each, said.get(each, _INITIAL_WORDS.get(each, "initial"))) for each in parts)


def _kinds(name: str, parts: tuple[str, ...]) -> tuple[str, ...]:
    if name.startswith("border") or name == "outline":
        return "outline-width", "outline-style", "outline-color"
    return parts


def _kind_of_line(longhand: str) -> str:
    return f"outline-{longhand.rpartition('-')[2]}"


def _background(found: list[str]) -> Expanded:
    said = {"background-color": "transparent", "background-image": "none"}
    images = [word for word in found if is_valid("background-image", word) and word.lower() != "none"]
    colours = [word for word in found if is_valid("background-color", word)]
    if images:
        said["background-image"] = ", ".join(images)
    if colours:
        said["background-color"] = colours[-1]
    others = [each for each in longhands("background") if each not in said]
    rest = [word for word in found if word not in images and word not in colours]
    told = {"background-repeat": [w for w in rest if is_valid("background-repeat", w)]}
    for each in others:
        said[each] = " ".join(told.get(each, ())) or "initial"
    return tuple(said.items())


def _flex(found: list[str]) -> Expanded:
    lowered = [word.lower() for word in found]
    grow, shrink, basis = "1", "1", "0%"
    if lowered == ["none"]:
        grow, shrink, basis = "0", "0", "auto"
    elif lowered == ["auto"]:
        basis = "auto"
    else:
        sizes = [word for word in found if not is_valid("flex-grow", word)]
        numbers = [word for word in found if word not in sizes]
        if len(numbers) == 3:
            sizes, numbers = numbers[2:], numbers[:2]
        grow = numbers[0] if numbers else "1"
        shrink = numbers[1] if len(numbers) > 1 else "1"
        basis = sizes[0] if sizes else "0%"
    return ("flex-grow", grow), ("flex-shrink", shrink), ("flex-basis", basis)


def _white_space(value: str) -> Expanded:
    collapse, wrap = {
        "normal": ("collapse", "wrap"),
        "nowrap": ("collapse", "nowrap"),
        "pre": ("preserve", "nowrap"),
        "pre-wrap": ("preserve", "wrap"),
        "pre-line": ("preserve-breaks", "wrap"),
        "break-spaces": ("break-spaces", "wrap"),
    }.get(value, ("collapse", "wrap"))
    return ("white-space-collapse", collapse), ("text-wrap-mode", wrap)


def _font(value: str, found: list[str]) -> Expanded:
    """Read ``font``: style, variant and weight in any order, size, a slash and the line height, families."""
    said = {
        "font-style": "normal", "font-variant-caps": "normal", "font-weight": "normal", "font-stretch": "normal",
        "font-size": "medium", "line-height": "normal", "font-family": "initial",
    }  # fmt: skip
    sizes = values_of("font-size")
    at = next((n for n, word in enumerate(found) if _is_size(word)), None) if sizes else None
    if at is None:
        return tuple(said.items())
    for word in found[:at]:
        for kind in ("font-style", "font-weight", "font-variant-caps", "font-stretch"):
            if word.lower() != "normal" and is_valid(kind, word):
                said[kind] = word
                break
    said["font-size"] = found[at]
    behind = value[value.index(found[at]) + len(found[at]) :].lstrip() if found[at] in value else ""
    if behind.startswith("/"):
        line = words(behind[1:])[0]
        said["line-height"] = line
        behind = behind[1:].lstrip()[len(line) :]
    said["font-family"] = behind.strip() or "initial"
    return tuple(said.items())


def _is_size(word: str) -> bool:
    return not word.isdigit() and is_valid("font-size", word)
