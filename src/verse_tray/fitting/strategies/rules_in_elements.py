"""Rules of style elements, written into the elements that they are for."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.model.patterns import lazy

NAME = "rules-in-elements"
SENTENCE = "Styles of the style element were written into the elements that they are for."
_IS_A_PAGE = lazy(r"\s*<(?:!doctype|html|head|body)\b", re.IGNORECASE)


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a style attribute for each element that rules match, where rules do not survive, or do not reach it.

    What a piece gives the page around it, and the piece by that, is written into an element around the piece.
    """
    if not draft.loses_rules:
        return
    stay = False
    for sheet in draft.subject.each("style"):
        outer = draft.trip.piece.source_map.outer_span(sheet)
        stay = stay or draft.kept(sheet) is not None
        if outer is not None and draft.kept(sheet) is None:
            yield Splice(outer, "")  # what of it cannot stand in an element, such as states, goes either way
    matched = draft.trip.piece.written_view.cascade.matched
    for element in draft.elements:
        if element.name in ("style", "script"):
            continue
        if not matched.get(element.key) and "var(" not in element.attributes.get("style", ""):
            continue
        look = draft.look(element)
        if stay:
            there = draft.published_look(element)
            look = {name: value for name, value in look.items() if there.get(name) != value} | draft.own_look(element)
        style = "; ".join(f"{name}: {value}" for name, value in look.items())
        if style and style != element.attributes.get("style", ""):
            yield from draft.with_attributes(element, style=style)
    page, text = draft.page_look, draft.subject.source.text
    if page and not any(draft.subject.each("html", "head", "body")) and not _IS_A_PAGE.match(text):
        style = "; ".join(f"{name}: {value}" for name, value in page.items())
        yield draft.put(0, f'<div style="{escape_attribute(style)}">')
        yield draft.put(len(text), "</div>")
