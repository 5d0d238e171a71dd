"""Rules of style elements, written into the elements that they are for."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fit.draft import Draft
from verse_tray.markup.splice import Splice

NAME = "rules-in-elements"
SENTENCE = "Styles of the style element were written into the elements that they are for."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a style attribute for each element that rules match, where rules do not survive."""
    if not draft.loses_rules:
        return
    for sheet in draft.subject.each("style"):
        outer = draft.trip.piece.source_map.outer_span(sheet)
        if outer is not None and draft.kept(sheet) is None:
            yield Splice(outer, "")  # what of it cannot stand in an element, such as states, goes either way
    matched = draft.trip.piece.written_view.cascade.matched
    for element in draft.elements():
        if not matched.get(element.key):
            continue
        style = "; ".join(f"{name}: {value}" for name, value in draft.look(element).items())
        if style and style != element.attributes.get("style", ""):
            yield from draft.with_attributes(element, style=style)
