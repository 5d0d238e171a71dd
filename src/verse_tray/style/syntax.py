"""Values held against syntax strings (CSS Properties and Values API, 5, "Syntax Strings")."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal

import tinycss2
from msgspec import Struct, structs

from verse_tray.style.colours import parse_colour
from verse_tray.style.source import readable, too_nested

_LENGTH_UNITS = frozenset(
    "px em rem ex rex ch rch cap rcap ic ric lh rlh cm mm q in pt pc vw vh vi vb vmin vmax svw svh lvw lvh dvw dvh cqw "
    "cqh cqi cqb cqmin cqmax".split()
)
_UNITS = {
    "angle": frozenset(("deg", "grad", "rad", "turn")),
    "time": frozenset(("s", "ms")),
    "resolution": frozenset(("dpi", "dpcm", "dppx", "x")),
    "length": _LENGTH_UNITS,
}
_CALCULATING = frozenset(("calc", "min", "max", "clamp"))
_PICTURES = frozenset(
    "image image-set linear-gradient radial-gradient conic-gradient repeating-linear-gradient "
    "repeating-radial-gradient repeating-conic-gradient".split()
)
TYPES = tuple(
    "length number percentage length-percentage color image url integer angle time resolution "
    "transform-function custom-ident string".split()
)
"""The data types that a syntax string can name, without their angle brackets."""


class _Component(Struct, frozen=True):
    name: str
    """A data type, or a word."""
    is_type: bool
    multiplier: Literal["", "+", "#"]
    """Once, a list parted by blanks, or a list parted by commas."""


class SyntaxStringError(ValueError):
    """A syntax string that cannot be read; its text says why."""


@lru_cache(maxsize=512)
def parse_syntax(text: str) -> tuple[_Component, ...] | None:
    """Return the components of a syntax string; None for ``*``, which any value is.

    Raises:
        SyntaxStringError: it is none.
    """
    if text.strip() == "*":
        return None
    found = []
    for part in text.split("|"):
        typed = part.strip()
        multiplier: Literal["", "+", "#"] = "+" if typed.endswith("+") else "#" if typed.endswith("#") else ""
        name = typed[: len(typed) - len(multiplier)]
        if name.startswith("<") and name.endswith(">"):
            if name[1:-1] not in TYPES:
                raise SyntaxStringError(f"there is no data type {name}; there are {', '.join(f'<{t}>' for t in TYPES)}")
            found.append(_Component(name[1:-1], True, multiplier))
        elif name and all(sign.isalnum() or sign in "-_" or not sign.isascii() for sign in name):
            found.append(_Component(name.lower(), False, multiplier))
        else:
            raise SyntaxStringError(f"{typed!r} is neither a data type such as <length> nor a word")
    return tuple(found)


def holds(value: str, syntax: str) -> bool:
    """Tell whether a value, without ``!important``, is of a syntax.

    Raises:
        SyntaxStringError: the syntax string is none.
    """
    components = parse_syntax(syntax)
    if components is None:
        return bool(value.strip())
    if too_nested(value):
        return False
    nodes = [node for node in tinycss2.parse_component_value_list(readable(value)) if node.type != "comment"]
    return any(_is_of(nodes, each) for each in components)


def _is_of(nodes: list[Any], component: _Component) -> bool:
    if component.multiplier == "#":
        groups: list[list[Any]] = [[]]
        for node in nodes:
            if node == ",":
                groups.append([])
            else:
                groups[-1].append(node)
    else:
        bare = [node for node in nodes if node.type != "whitespace"]
        groups = [[node] for node in bare] if component.multiplier == "+" else [bare]
    single = [[node for node in group if node.type != "whitespace"] for group in groups]
    return bool(single) and all(len(group) == 1 and _is_one(group[0], component) for group in single)


def _is_one(node: Any, component: _Component) -> bool:
    name = component.name
    if not component.is_type:
        return bool(node.type == "ident" and node.lower_value == name)
    if name == "length-percentage":
        return any(_is_one(node, structs.replace(component, name=each)) for each in ("length", "percentage"))
    if node.type == "function" and node.lower_name in _CALCULATING:
        return name in ("length", "number", "percentage", "integer", "angle", "time")
    return bool(_TESTS[name](node))


def _dimension(kind: str) -> Any:
    return lambda node: (
        (node.type == "dimension" and node.lower_unit in _UNITS[kind])
        or (kind == "length" and node.type == "number" and node.value == 0)
    )


_TRANSFORMS = ("matrix", "translate", "scale", "rotate", "skew", "perspective")
_TESTS: dict[str, Any] = {
    **{kind: _dimension(kind) for kind in _UNITS},
    "number": lambda node: node.type == "number",
    "integer": lambda node: node.type == "number" and node.is_integer,
    "percentage": lambda node: node.type == "percentage",
    "color": lambda node: node.type in ("ident", "hash", "function") and _is_colour(node),
    "url": lambda node: node.type == "url" or (node.type == "function" and node.lower_name in ("url", "src")),
    "image": lambda node: node.type == "url" or (node.type == "function" and node.lower_name in _PICTURES | {"url"}),
    "string": lambda node: node.type == "string",
    "custom-ident": lambda node: node.type == "ident",
    "transform-function": lambda node: node.type == "function" and node.lower_name.startswith(_TRANSFORMS),
}


def _is_colour(node: Any) -> bool:
    text = node.serialize()
    return text.lower() == "currentcolor" or parse_colour(text) is not None
