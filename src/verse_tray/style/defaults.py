"""What browsers give elements by themselves: a style sheet of their own, and what old attributes say.

HTML standard, section 15, "Rendering"; in standards mode, as the browsers of today draw it.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.style.colours import parse_colour
from verse_tray.style.expand import Expanded, expand

_BLOCKS = (
    "address article aside blockquote body center dd details dialog dir div dl dt fieldset figcaption figure footer "
    "form h1 h2 h3 h4 h5 h6 header hgroup hr html legend main menu nav ol p pre search section ul optgroup option "
    "summary"
)
_UNSEEN = "area base basefont datalist head link meta noembed noframes param rp script style template title"
_CONTROL = (
    "display: inline-block; font: 13.3333px Arial; color: #000; text-align: start; letter-spacing: normal; "
    "word-spacing: normal; text-transform: none; text-indent: 0; text-shadow: none; cursor: default"
)
_FIELD = f"{_CONTROL}; padding: 1px 2px; border: 2px inset #767676; background-color: #fff"
_BUTTON = f"{_CONTROL}; padding: 1px 6px; border: 2px outset #000; background-color: #efefef; text-align: center"

_SHEET = {
    _BLOCKS: "display: block",
    _UNSEEN: "display: none",
    "p dl ul ol menu dir pre blockquote figure": "margin: 1em 0",
    "blockquote figure": "margin-left: 40px; margin-right: 40px",
    "body": "margin: 8px",
    "dd": "margin-left: 40px",
    "ul ol menu dir": "padding-left: 40px",
    "ul menu dir": "list-style-type: disc",
    "ol": "list-style-type: decimal",
    "li": "display: list-item",
    "summary": "display: list-item; list-style: disclosure-closed inside",
    "h1": "font-size: 2em; margin: 0.67em 0; font-weight: bold",
    "h2": "font-size: 1.5em; margin: 0.83em 0; font-weight: bold",
    "h3": "font-size: 1.17em; margin: 1em 0; font-weight: bold",
    "h4": "margin: 1.33em 0; font-weight: bold",
    "h5": "font-size: 0.83em; margin: 1.67em 0; font-weight: bold",
    "h6": "font-size: 0.67em; margin: 2.33em 0; font-weight: bold",
    "pre listing xmp plaintext": "display: block; font-family: monospace; white-space: pre; margin: 1em 0",
    "code kbd samp tt": "font-family: monospace",
    "b strong": "font-weight: bolder",
    "i em cite var dfn address": "font-style: italic",
    "u ins": "text-decoration: underline",
    "s strike del": "text-decoration: line-through",
    "small": "font-size: smaller",
    "big": "font-size: larger",
    "sub": "vertical-align: sub; font-size: smaller",
    "sup": "vertical-align: super; font-size: smaller",
    "mark": "background-color: #ff0; color: #000",
    "center": "text-align: -webkit-center",
    "nobr": "white-space: nowrap",
    "table": "display: table; border-spacing: 2px; text-indent: 0; border-collapse: separate; box-sizing: border-box",
    "caption": "display: table-caption; text-align: -webkit-center",
    "colgroup": "display: table-column-group",
    "col": "display: table-column",
    "thead": "display: table-header-group; vertical-align: middle; border-color: inherit",
    "tbody": "display: table-row-group; vertical-align: middle; border-color: inherit",
    "tfoot": "display: table-footer-group; vertical-align: middle; border-color: inherit",
    "tr": "display: table-row; vertical-align: inherit; border-color: inherit",
    "td": "display: table-cell; vertical-align: inherit; padding: 1px",
    "th": "display: table-cell; vertical-align: inherit; padding: 1px; font-weight: bold; text-align: -internal-center",
    "hr": "margin: 0.5em auto; border: 1px inset #808080; color: #808080; overflow: hidden",
    "fieldset": "margin: 0 2px; border: 2px groove #efefef; padding: 0.35em 0.75em 0.625em",
    "legend": "padding: 0 2px",
    "button": _BUTTON,
    "input": f"{_FIELD}; cursor: text",
    "textarea": f"{_FIELD}; cursor: text; font-family: monospace; white-space: pre-wrap; border-width: 1px",
    "select": f"{_CONTROL}; border: 1px solid #767676; background-color: #fff; white-space: pre",
    "meter progress": "display: inline-block; vertical-align: -0.2em",
    "img video canvas audio": "display: inline",
    "iframe": "border: 2px inset #000",
    "ruby": "display: ruby",
    "rt": "display: ruby-text; font-size: 50%",
    "slot": "display: contents",
}
LISTS = frozenset(("ul", "ol", "menu", "dir"))
"""Lists: within one another they have no space above and below, and other signs."""
_NESTED = (
    "display: block; padding-left: 40px; list-style-type: decimal",
    "display: block; padding-left: 40px; list-style-type: circle",
    "display: block; padding-left: 40px; list-style-type: square",
)
_DISABLED = {
    "button": "color: rgba(16, 16, 16, 0.3); border-color: rgba(118, 118, 118, 0.3); "
    "background-color: rgba(239, 239, 239, 0.3)",
}
_SUBMITS = frozenset(("button", "submit", "reset"))


@cache
def _by_name() -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for names, style in _SHEET.items():
        for name in names.split():
            found.setdefault(name, []).append(style)
    return found


@cache
def _of_name(name: str) -> Expanded:
    """Return what is said above of elements of a name; what stands lower wins."""
    return tuple(dict(pair for style in _by_name().get(name, ()) for pair in _expanded(style)).items())


@cache
def _expanded(style: str) -> Expanded:
    """Return the longhands of declarations that are written as above: nothing has to be parsed."""
    said = (each.split(": ", 1) for each in style.split("; "))
    return tuple(pair for name, value in said for pair in expand(name, value))


def own_style(element: Element, in_list: int = 0) -> Expanded:
    """Return the longhands that browsers give an element by its name and state, weakest first.

    Args:
        element: The element.
        in_list: How many lists are around it.
    """
    if element.namespace != "html":
        return ()
    name, attributes = element.name, element.attributes
    found = _of_name(name)
    if name in LISTS and in_list:
        return _expanded(_NESTED[min(in_list, 2)]) if name != "ol" else _expanded(_NESTED[0])
    if name == "abbr" and "title" in attributes:
        return _expanded("text-decoration: underline dotted")
    if name == "a" and "href" in attributes:
        return _expanded("color: #0000ee; text-decoration: underline; cursor: pointer")
    if name in _DISABLED and "disabled" in attributes:
        return (*found, *_expanded(_DISABLED[name]))
    if name == "input":
        kind = attributes.get("type", "text").lower()
        if kind in _SUBMITS:
            return _expanded(_BUTTON)
        if kind == "hidden":
            return _expanded("display: none")
        if kind in ("checkbox", "radio"):
            return _expanded(f"{_CONTROL}; margin: 3px 3px 3px 4px")
        if kind in ("range", "image", "color", "file"):
            return _expanded(_CONTROL)
    elif (name == "dialog" and "open" not in attributes) or (name == "audio" and "controls" not in attributes):
        return _expanded("display: none")
    return found


_SIZED = frozenset("table td th img iframe video embed object hr canvas col input".split())
_FLOATED = frozenset("img table iframe object embed video".split())
_FONT_SIZES = ("10px", "13px", "16px", "18px", "24px", "32px", "48px")
_HINTS = frozenset(
    "align background bgcolor border cellpadding cellspacing color dir face frameborder height hidden hspace nowrap "
    "size text type valign vspace width".split()
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
    if name in _PAINTED:
        found += _ground(attributes)
    if name == "font":
        found += _of_font(attributes)
    elif name == "body" and (colour := legacy_colour(attributes.get("text"))):
        found.append(("color", colour))
    if (align := attributes.get("align", "").lower()) and name not in ("input", "label", "span"):
        found += _aligned(name, align)
    if name in ("td", "th", "tr", "tbody", "thead", "tfoot") and "valign" in attributes:
        found.append(("vertical-align", attributes["valign"].lower()))
    if name in ("td", "th") and "nowrap" in attributes:
        found.append(("text-wrap-mode", "nowrap"))
    if name in _SIZED:
        found += [(side, size) for side in ("width", "height") if (size := _size(attributes.get(side)))]
    if name in _WITH_OWN:
        found += _WITH_OWN[name](attributes)
    if attributes.get("dir", "").lower() in ("ltr", "rtl"):
        found.append(("direction", attributes["dir"].lower()))
    if name in ("ol", "ul", "li") and "type" in attributes:
        kinds = {"1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman"}
        kind = kinds.get(attributes["type"], attributes["type"].lower())
        if kind in (*kinds.values(), "disc", "circle", "square", "none"):
            found.append(("list-style-type", kind))
    return found


_INTEGER = lazy(r"[ \t\n\f\r]*([+-]?[0-9]{1,6})")
_PAINTED = frozenset("body table thead tbody tfoot tr td th".split())


def _ground(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if colour := legacy_colour(attributes.get("bgcolor")):
        found.append(("background-color", colour))
    if attributes.get("background"):
        found.append(("background-image", f"url({attributes['background']})"))
    return found


def cell_hints(table: Element, cell: str) -> list[tuple[str, str]]:
    """Return what the attributes of a table say of its cells."""
    found: list[tuple[str, str]] = []
    if cell in ("td", "th"):
        if table.attributes.get("cellpadding"):
            found += expand("padding", f"{max(0, _integer(table.attributes['cellpadding']) or 0)}px")
        if _border(table.attributes):
            found += expand("border", "1px inset currentcolor")
    return found


def _of_table(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if attributes.get("cellspacing"):
        found.append(("border-spacing", f"{max(0, _integer(attributes['cellspacing']) or 0)}px"))
    if border := _border(attributes):
        found += expand("border", f"{border}px outset currentcolor")
    return found


def _of_picture(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if border := _integer(attributes.get("border", "")):
        found += expand("border", f"{max(0, border)}px solid currentcolor")
    for name, sides in (("hspace", ("left", "right")), ("vspace", ("top", "bottom"))):
        if space := _size(attributes.get(name)):
            found += [(f"margin-{side}", space) for side in sides]
    return found


def _of_frame(attributes: dict[str, str]) -> list[tuple[str, str]]:
    return list(expand("border-width", "0")) if not _integer(attributes.get("frameborder", "1")) else []


def _of_rule(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if "size" in attributes:
        size = _integer(attributes["size"]) or 0  # with its borders; of one pixel there is the upper one alone
        found.append(("height", f"{size - 2}px") if size > 1 else ("border-bottom-width", "0px"))
    if colour := legacy_colour(attributes.get("color")):
        found += [("color", colour), *expand("border-color", colour), *expand("border-style", "solid")]
    return found


_WITH_OWN: dict[str, Callable[[dict[str, str]], list[tuple[str, str]]]] = {
    **dict.fromkeys(("img", "object", "video"), _of_picture),
    "table": _of_table,
    "iframe": _of_frame,
    "hr": _of_rule,
}


def _of_font(attributes: dict[str, str]) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    if colour := legacy_colour(attributes.get("color")):
        found.append(("color", colour))
    if attributes.get("face"):
        found.append(("font-family", attributes["face"]))
    number = _integer(size := attributes.get("size", ""))
    if number is not None:
        number += 3 * size.lstrip().startswith(("+", "-"))
        found.append(("font-size", _FONT_SIZES[min(max(number, 1), 7) - 1]))
    return found


def _aligned(name: str, align: str) -> list[tuple[str, str]]:
    if name in _FLOATED:
        if align in ("left", "right"):
            return [("float", align)]
        if align == "center" and name == "table":
            return [("margin-left", "auto"), ("margin-right", "auto")]
        places = {"middle": "middle", "top": "top", "bottom": "baseline", "absmiddle": "middle", "texttop": "text-top"}
        return [("vertical-align", places[align])] if align in places else []
    if name == "hr":
        sides = {"left": ("0", "auto"), "right": ("auto", "0"), "center": ("auto", "auto")}.get(align)
        return [("margin-left", sides[0]), ("margin-right", sides[1])] if sides else []
    if name == "caption":
        return [("caption-side", "bottom")] if align == "bottom" else []
    if name == "legend" or align not in ("left", "right", "center", "middle", "justify"):
        return []
    inside = {"left": "-webkit-left", "right": "-webkit-right", "center": "-webkit-center", "middle": "-webkit-center"}
    plain = name in ("p", "h1", "h2", "h3", "h4", "h5", "h6")
    return [("text-align", inside.get(align, align) if not plain else align.replace("middle", "center"))]


def _border(attributes: dict[str, str]) -> int:
    """Return the width of a table's border."""
    if "border" not in attributes:
        return 0
    width = _integer(attributes["border"])
    return 1 if width is None or width < 0 else width


def _integer(typed: str) -> int | None:
    """Return the number that an attribute begins with (HTML standard, "rules for parsing integers")."""
    number = _INTEGER.match(typed)
    return int(number[1]) if number else None


def _size(typed: str | None) -> str:
    """Return a length or a share as CSS; empty for none."""
    if not typed:
        return ""
    typed = typed.strip()
    digits = ""
    for sign in typed[:12]:
        if not (sign.isdecimal() and sign.isascii()) and (sign != "." or "." in digits or not digits):
            break
        digits += sign
    if not digits:
        return ""
    return f"{digits}%" if typed[len(digits) :].startswith("%") else f"{digits}px"


def legacy_colour(typed: str | None) -> str:
    """Return a colour of an attribute as CSS (HTML standard, "rules for parsing a legacy color value")."""
    if not typed or typed.strip().lower() == "transparent":
        return ""
    typed = typed.strip()
    if parse_colour(typed) is not None and "(" not in typed:
        return typed
    signs = "".join(sign if sign in "0123456789abcdefABCDEF" else "0" for sign in typed.removeprefix("#")[:128]) or "0"
    signs += "0" * (-len(signs) % 3)
    third = len(signs) // 3
    parts = [signs[at : at + third][-8:] for at in (0, third, 2 * third)]
    while third > 2 and len(parts[0]) > 2 and all(part[0] == "0" for part in parts):
        parts = [part[1:] for part in parts]
    return "#" + "".join(part[:2].rjust(2, "0") for part in parts)
