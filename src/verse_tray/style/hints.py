"""What old attributes say of the look of elements (HTML standard, section 15, "presentational hints")."""

from __future__ import annotations

from collections.abc import Callable

from verse_tray.markup.tree import Element, Node, Text
from verse_tray.style.attribute_values import integer, legacy_colour, legacy_size
from verse_tray.style.expand import expand
from verse_tray.style.table_hints import of_table

_SIZED = frozenset("table td th img iframe video embed object hr canvas col input".split())
_FLOATED = frozenset("img iframe object embed".split())
_PLACES = {
    "center": "-webkit-baseline-middle", "middle": "-webkit-baseline-middle", "top": "top", "bottom": "baseline",
    "baseline": "baseline", "absmiddle": "middle", "abscenter": "middle", "texttop": "text-top", "absbottom": "bottom",
}  # fmt: skip
_HEIGHTS = frozenset(("top", "middle", "bottom", "baseline"))
_OF_TABLES = frozenset("table td th tr tbody thead tfoot col colgroup".split())
_CARRYING = _OF_TABLES | {"p", "div"}  # blocks inside are placed as well
_FONT_SIZES = ("10px", "13px", "16px", "18px", "24px", "32px", "48px")
_HINTS = frozenset(
    "align background bgcolor border bordercolor cellpadding cellspacing clear color dir face frame frameborder height "
    "hidden hspace noshade nowrap popover rules size text type valign vspace width wrap".split()
)
LOOK_ATTRIBUTES = _HINTS | {"style", "href", "title", "open", "controls", "role", "disabled"}
"""Attributes on which the look of an element depends, beside what selectors match."""


def has_hints(element: Element) -> bool:
    """Tell whether an element has attributes that say something of its look."""
    return not _HINTS.isdisjoint(element.attributes) and element.namespace == "html"


def hints(element: Element) -> list[tuple[str, str]]:
    """Return what the attributes of an element say of its look (HTML standard, "presentational hints")."""
    attributes, name = element.attributes, element.name
    found: list[tuple[str, str]] = []
    if "hidden" in attributes and attributes["hidden"].lower() != "until-found":
        found.append(("display", "none"))
    if "popover" in attributes and not (name == "dialog" and "open" in attributes):
        found.append(("display", "none"))  # until something opens it
    if name in _PAINTED:
        found += _ground(attributes)
    if name == "font":
        found += _of_font(attributes)
    elif name == "body" and (colour := legacy_colour(attributes.get("text"))):
        found.append(("color", colour))
    if align := attributes.get("align", "").lower():
        is_picture = name in _FLOATED or (name == "input" and attributes.get("type", "").lower() == "image")
        found += _of_floating(align) if is_picture else _aligned(name, align)
    if name in _OF_TABLES and (place := attributes.get("valign", "").lower()) in _HEIGHTS:
        found.append(("vertical-align", place))
    if name in ("td", "th") and "nowrap" in attributes:
        found.append(("text-wrap-mode", "nowrap"))
    if name in _SIZED:
        found += [(side, size) for side in ("width", "height") if (size := legacy_size(attributes.get(side)))]
    if name in _WITH_OWN:
        found += _WITH_OWN[name](attributes)
    if (direction := attributes.get("dir", "").lower()) in ("ltr", "rtl", "auto"):
        found.append(("direction", direction if direction != "auto" else direction_of(element)))
    if "type" in attributes and (kind := _kind_of_list(name, attributes["type"])):
        found.append(("list-style-type", kind))
    return found


_NUMBERED = {"1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman"}
_SIGNED = frozenset(("disc", "circle", "square", "none"))


def _kind_of_list(name: str, typed: str) -> str:
    if name in ("ol", "li") and typed in _NUMBERED:
        return _NUMBERED[typed]
    return typed.lower() if name in ("ul", "li") and typed.lower() in _SIGNED else ""


def direction_of(element: Element) -> str:
    """Return the direction of an element's first letter that has one (HTML standard, "auto" of ``dir``)."""
    from unicodedata import bidirectional

    stack: list[Node] = list(reversed(element.children))
    while stack:
        node = stack.pop()
        if type(node) is Text:
            for sign in node.data:
                if (strong := bidirectional(sign)) in ("L", "R", "AL"):
                    return "ltr" if strong == "L" else "rtl"
        elif type(node) is Element and node.name not in _APART and "dir" not in node.attributes:
            stack += reversed(node.children)
    return "ltr"


_APART = frozenset(("bdi", "script", "style", "textarea"))
_PAINTED = frozenset("body table thead tbody tfoot tr td th col colgroup".split())


def _ground(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if colour := legacy_colour(attributes.get("bgcolor")):
        found.append(("background-color", colour))
    if attributes.get("background"):
        found.append(("background-image", f"url({attributes['background']})"))
    return found


def _of_picture(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if border := integer(attributes.get("border", "")):
        found += expand("border", f"{max(0, border)}px solid currentcolor")
    for name, sides in (("hspace", ("left", "right")), ("vspace", ("top", "bottom"))):
        if space := legacy_size(attributes.get(name)):
            found += [(f"margin-{side}", space) for side in sides]
    return found


def _of_frame(attributes: dict[str, str]) -> list[tuple[str, str]]:
    return list(expand("border-width", "0")) if not integer(attributes.get("frameborder", "1")) else []


def _of_rule(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if "size" in attributes:
        size = integer(attributes["size"]) or 0  # with its borders; of one pixel there is the upper one alone
        found.append(("height", f"{size - 2}px") if size > 1 else ("border-bottom-width", "0px"))
    colour = legacy_colour(attributes.get("color")) or ("#808080" if "noshade" in attributes else "")
    if colour:
        found += [("background-color", colour), *expand("border-color", colour)]
    if colour or "color" in attributes:
        found += expand("border-style", "solid")
    return found


def _of_break(attributes: dict[str, str]) -> list[tuple[str, str]]:
    clear = attributes.get("clear", "").lower()
    return [("clear", "both" if clear == "all" else clear)] if clear in ("left", "right", "both", "all") else []


def _of_preformatted(attributes: dict[str, str]) -> list[tuple[str, str]]:
    return [("text-wrap-mode", "wrap")] if "wrap" in attributes else []


_WITH_OWN: dict[str, Callable[[dict[str, str]], list[tuple[str, str]]]] = {
    **dict.fromkeys(("img", "object", "video"), _of_picture),
    "table": of_table,
    "iframe": _of_frame,
    "hr": _of_rule,
    "br": _of_break,
    "pre": _of_preformatted,
}


def _of_font(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if colour := legacy_colour(attributes.get("color")):
        found.append(("color", colour))
    if attributes.get("face"):
        found.append(("font-family", attributes["face"]))
    number = integer(size := attributes.get("size", ""))
    if number is not None:
        number += 3 * size.lstrip().startswith(("+", "-"))
        found.append(("font-size", _FONT_SIZES[min(max(number, 1), 7) - 1]))
    return found


def _of_floating(align: str) -> list[tuple[str, str]]:
    if align in ("left", "right"):
        return [("float", align), ("vertical-align", "top")]
    return [("vertical-align", _PLACES[align])] if align in _PLACES else []


def _aligned(name: str, align: str) -> list[tuple[str, str]]:
    if name == "table":
        if align == "center":
            return [("margin-left", "auto"), ("margin-right", "auto")]
        return [("float", align)] if align in ("left", "right") else []
    if name == "hr":
        sides = {"left": ("0", "auto"), "right": ("auto", "0"), "center": ("auto", "auto")}.get(align)
        return [("margin-left", sides[0]), ("margin-right", sides[1])] if sides else []
    if name == "caption":
        return [("caption-side", "bottom")] if align == "bottom" else []
    if name in _OF_TABLES and align == "absmiddle":
        return [("text-align", "center")]
    if name in ("input", "video", "audio", "canvas") or align not in ("left", "right", "center", "middle", "justify"):
        return []
    align = align.replace("middle", "center")
    return [("text-align", f"-webkit-{align}" if name in _CARRYING and align != "justify" else align)]
