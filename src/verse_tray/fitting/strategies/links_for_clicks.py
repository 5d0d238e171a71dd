"""What led somewhere by an event handler, as a link."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.names import BLOCKS
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Tree
from verse_tray.model.patterns import lazy

NAME = "links-for-clicks"
SENTENCE = "What led somewhere when it was clicked became a link."
_LEADS = lazy(
    r"\s*(?:(?:window|document|self|top)\.)?(?:location(?:\.href)?\s*=|location\.(?:assign|replace)\(|open\()\s*"
    r"(?P<quote>['\"])(?P<address>[^'\"\\]+)(?P=quote)\s*(?:,\s*['\"]\w*['\"]\s*)?\)?\s*;?\s*(?:return false)?\s*;?\s*",
    re.IGNORECASE,
)
_BUTTON = {
    "display": "inline-block",
    "text-align": "center",
    "text-decoration": "none",
    "color": "#000000",
    "background": "#efefef",
    "border": "2px outset #767676",
    "padding": "1px 6px",
}
"""How browsers show a button."""


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a link in place of each button whose click goes; around the contents of another element."""
    for element in draft.elements:
        match = _LEADS.fullmatch(element.attributes.get("onclick", ""))
        kept, inner = draft.kept(element), draft.inner(element)
        if match is None or inner is None or (kept is not None and "onclick" in kept.attributes):
            continue
        address = match["address"].strip()
        if scheme_of(address) not in ("", "http", "https") or any(
            each.name == "a" for each in (*draft.subject.around(element), *Tree(element).elements())
        ):
            continue
        href = escape_attribute(address)
        if element.name == "button":
            own = draft.own_look(element)
            usual = {name: value for name, value in _BUTTON.items() if not any(each.startswith(name) for each in own)}
            style = "; ".join(f"{name}: {value}" for name, value in (usual | own).items())
            names = "".join(
                f' {name}="{escape_attribute(element.attributes[name])}"'
                for name in ("class", "id", "title")
                if name in element.attributes
            )
            yield from draft.with_tags(element, f'<a href="{href}" style="{escape_attribute(style)}"{names}>', "</a>")
        elif not any(each.name in BLOCKS for each in Tree(element).elements()) and element.name not in (
            "tr",
            "ul",
            "ol",
        ):
            yield draft.put(inner.start, f'<a href="{href}" style="color: inherit; text-decoration: none">')
            yield draft.put(inner.end, "</a>")
