"""What browsers give elements by themselves: a style sheet of their own.

HTML standard, section 15, "Rendering"; in standards mode, as the browsers of today draw it.
"""

from __future__ import annotations

from functools import cache

from verse_tray.markup.tree import Element
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
    "marquee": "display: inline-block; white-space: nowrap; overflow: hidden",
    "optgroup": "font-weight: bolder",
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
    if name in ("abbr", "acronym") and "title" in attributes:
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
