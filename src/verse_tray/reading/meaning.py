"""What elements are to readers: roles of text, pictures and controls."""

from __future__ import annotations

from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.markup.vocabulary import BOOLEAN
from verse_tray.reading.records import Medium
from verse_tray.style.computed_style import Style
from verse_tray.style.values import pixels

_ROLES = {
    "strong": "strong", "b": "strong", "em": "em", "i": "em", "cite": "em", "code": "code", "pre": "code",
    "kbd": "code", "samp": "code", "tt": "code", "blockquote": "quote", "q": "quote", "li": "item", "dt": "item",
    "dd": "item", "th": "head", "td": "cell", "caption": "caption", "figcaption": "caption", "summary": "summary",
    "sub": "sub", "sup": "sup", "del": "del", "s": "del", "strike": "del", "ins": "ins", "u": "ins", "mark": "mark",
    "button": "button", "label": "label", "legend": "caption",
}  # fmt: skip
MEDIA = frozenset(
    "img iframe video audio canvas svg input select textarea hr progress meter object embed picture".split()
)
_PICTURES = frozenset(("img", "svg", "canvas", "picture"))
_NUMBERING = ("start", "reversed", "value")
SEEN_ROLE = "sign "
"""How a role begins that is seen as such: the sign before an item, its number, a cell over several columns."""
MEANS = frozenset((*_ROLES, "h1", "h2", "h3", "h4", "h5", "h6", "ol"))
"""Elements that may have a role."""
_NONE: frozenset[str] = frozenset()
_SINGLE = {name: frozenset((role,)) for name, role in _ROLES.items()}


def own_roles(element: Element, style: Style) -> frozenset[str]:
    """Return what an element makes of the text in it: its role, the sign before an item, the level of a heading."""
    name, attributes = element.name, element.attributes
    if element.namespace != HTML:
        return _NONE
    if len(name) == 2 and name[0] == "h" and name[1] in "123456":
        return frozenset(("heading", name))
    if name in ("td", "th"):
        table = style.table
        if table is not None and table.attributes.get("role", "").lower() in ("presentation", "none"):
            return _NONE
        spans = [attributes[each] for each in ("colspan", "rowspan") if attributes.get(each, "1").strip() != "1"]
        if spans:
            return _SINGLE[name] | {f"{SEEN_ROLE}over {' '.join(spans)}"}
    roles = _SINGLE.get(name, _NONE)
    if name in ("ol", "li") and not attributes.keys().isdisjoint(_NUMBERING):
        said = {each: "" if each in BOOLEAN else attributes[each] for each in _NUMBERING if each in attributes}
        roles |= {f"{SEEN_ROLE}{each} {value}" for each, value in said.items()}
    if style["display"] == "list-item" and style["list-style-type"] != "none":
        roles |= {f"{SEEN_ROLE}{style['list-style-type']}"}
    return roles


def medium_of(element: Element, style: Style, at: int) -> Medium | None:
    """Return the picture, frame or control that an element is; None for what holds text."""
    name = element.name
    if name not in MEDIA or (name == "picture" and element.children):
        return None
    attributes = element.attributes
    if name == "input" and attributes.get("type", "").lower() == "hidden":
        return None
    width, height = style["width"], style["height"]
    said = next((attributes[each] for each in ("alt", "aria-label", "title", "value") if attributes.get(each)), "")
    if name == "svg":  # its letters are drawn, and say the same in words
        width, height = (
            _stated(attributes.get(side, "")) if value == "auto" else value
            for side, value in (("width", width), ("height", height))
        )
        said = " ".join([said, *(node.data for node in Tree(element).nodes() if type(node) is Text)]).strip()
    return Medium(
        element.key,
        "picture" if name in _PICTURES else name,
        attributes.get("src") or attributes.get("data", ""),
        said,
        width if isinstance(width, float) else 0.0,
        height if isinstance(height, float) else 0.0,
        at,
    )


def _stated(length: str) -> float | None:
    """Return a drawing's own width or height in CSS pixels."""
    return float(length) if length.isascii() and length.isdigit() else pixels(length)


def is_aside(data: str) -> bool:
    """Tell whether a text that is not shown is no loss: no letter and no digit in it."""
    return not any(sign.isalnum() for sign in data)
