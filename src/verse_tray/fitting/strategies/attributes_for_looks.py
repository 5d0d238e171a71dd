"""Old attributes in place of styles that go."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.spans import Span
from verse_tray.style.colours import parse_colour, written
from verse_tray.style.values import pixels

NAME = "attributes-for-looks"
SENTENCE = "Colours, widths and alignment became attributes."
_CELLS = ("table", "tr", "td", "th")
_ALIGNED = ("p", "div", "h1", "h2", "h3", "h4", "h5", "h6", "td", "th", "tr", "table", "img", "hr")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield attributes that browsers read as styles, for elements whose style goes (HTML standard, chapter 15)."""
    for element in draft.elements:
        look = draft.look(element)
        if not look:
            continue
        given = {
            name: value
            for name, (value, of) in _attributes(element, look).items()
            if name not in element.attributes and draft.loses(element, of)
        }
        if given:
            yield from draft.with_attributes(element, **given)
        yield from _font(draft, element, look)


def _attributes(element: Element, look: dict[str, str]) -> dict[str, tuple[str, str]]:
    """Return attributes with their values, and the property that each stands for."""
    found: dict[str, tuple[str, str]] = {}
    ground = parse_colour(look.get("background-color", "") or look.get("background", ""))
    if ground is not None and element.name in _CELLS:
        found["bgcolor"] = written(ground, "hex"), "background-color" if "background-color" in look else "background"
    align = look.get("text-align", "").lower()
    if align in ("left", "right", "center", "justify") and element.name in _ALIGNED and element.name != "img":
        found["align"] = align, "text-align"
    if element.name in ("img", "table") and look.get("float") in ("left", "right"):
        found["align"] = look["float"], "float"
    width = look.get("width", "")
    size = f"{pixels(width):.0f}" if pixels(width) is not None else width if re.fullmatch(r"\d+%", width) else ""
    if size and element.name in ("table", "td", "th", "img", "hr"):
        found["width"] = size, "width"
    up = look.get("vertical-align", "").lower()
    if up in ("top", "middle", "bottom", "baseline") and element.name in ("td", "th", "tr"):
        found["valign"] = up, "vertical-align"
    if element.name == "table" and re.search(r"\b(?:solid|dashed|dotted)\b", look.get("border", "")):
        found["border"] = "1", "border"
    return found


def _font(draft: Draft, element: Element, look: dict[str, str]) -> Iterator[Splice]:
    """Yield a font element around the contents of one whose colour or letters go."""
    inner = draft.inner(element)
    colour = parse_colour(look.get("color", ""))
    if inner is None or inner.start == inner.end or colour is None or not draft.loses(element, "color"):
        return
    if element.name in ("table", "tbody", "thead", "tr", "ul", "ol", "select") or any(
        isinstance(child, Element) and child.name not in ("b", "strong", "i", "em", "u", "s", "br", "span", "code")
        for child in element.children
    ):
        return
    yield Splice(Span(inner.start, inner.start), f'<font color="{written(colour, "hex")}">')
    yield Splice(Span(inner.end, inner.end), "</font>")
