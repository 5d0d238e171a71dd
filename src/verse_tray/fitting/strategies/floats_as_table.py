"""What floats beside the text by a style that goes, as a table that floats by its attribute."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.names import TEXT_LEVEL
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Text
from verse_tray.style.expand import expand

NAME = "floats-as-table"
SENTENCE = "What stood beside the text stands there by an attribute: of its picture, or of a table around it."
_KINDS = frozenset("div aside figure section p".split())


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a table of one cell in place of the tags of each block that loses its float."""
    for element in draft.elements:
        side = draft.look(element).get("float", "")
        picture = _only_picture(element)
        if picture is not None and side in ("left", "right") and draft.loses(element, "float"):
            source = picture.attributes.get("src", "")
            if draft.kept(picture) is not None and draft.probe.keeps("img", src=source, align=side):
                yield from draft.with_attributes(picture, align=side)
            continue
        if element.name not in _KINDS or side not in ("left", "right") or draft.inner(element) is None:
            continue
        if not draft.loses(element, "float") or not draft.probe.keeps("table", align=side):
            continue
        own = {name: value for name, value in draft.own_look(element).items() if name != "float"}
        if element.name == "figure" and not any(name.startswith("margin") for name in own):
            own = dict(expand("margin", "16px 40px")) | own
        style = "; ".join(f"{name}: {value}" for name, value in own.items())
        typed = f' style="{escape_attribute(style)}"' if style else ""
        start = f'<table role="presentation" align="{side}"{typed}><tbody><tr><td style="padding: 0; border: 0">'
        yield from draft.with_tags(element, start, "</td></tr></tbody></table>")


def _only_picture(element: Element) -> Element | None:
    """Return the picture that is all that a link or the like holds."""
    children = [child for child in element.children if not isinstance(child, Text) or child.data.strip()]
    only = children[0] if len(children) == 1 else None
    return only if isinstance(only, Element) and only.name == "img" and element.name in TEXT_LEVEL else None
