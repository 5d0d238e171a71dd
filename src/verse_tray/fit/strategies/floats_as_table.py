"""What floats beside the text by a style that goes, as a table that floats by its attribute."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.style.expand import expand

NAME = "floats-as-table"
SENTENCE = "What stood beside the text became a table that stands there by its attribute."
_KINDS = frozenset("div aside figure section p".split())


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a table of one cell in place of the tags of each block that loses its float."""
    for element in draft.elements:
        side = draft.look(element).get("float", "")
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
