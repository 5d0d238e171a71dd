"""Declarations that an editor takes away in any case: the last step, so that a fitted piece says what readers get."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element

NAME = "lost-left-out"
SENTENCE = "Styles that the editor takes away in any case were left out."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield what takes style elements away that go, and style attributes without what goes of them."""
    for sheet in draft.subject.each("style"):
        outer = draft.trip.piece.source_map.outer_span(sheet)
        if outer is not None and draft.kept(sheet) is None:
            yield Splice(outer, "")
    for element, lost in lost_declarations(draft):
        stays = {name: value for name, value in draft.own_look(element).items() if name not in lost}
        if stays:
            style = "; ".join(f"{name}: {value}" for name, value in stays.items())
            yield from draft.with_attributes(element, style=style)
        else:
            yield from draft.without_attribute(element, "style")


def lost_declarations(draft: Draft) -> Iterator[tuple[Element, list[str]]]:
    """Yield the elements that stay and lose declarations of their style attributes, with the properties."""
    for element in draft.elements:
        if draft.subject.attribute(element, "style") is None or draft.kept(element) is None:
            continue
        lost = [name for name in draft.own_look(element) if draft.loses(element, name)]
        if lost:
            yield element, lost
