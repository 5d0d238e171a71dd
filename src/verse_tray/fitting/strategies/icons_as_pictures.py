"""Drawings that an editor does not keep, as pictures that were made of them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element, Text, Tree

NAME = "icons-as-pictures"
SENTENCE = "Drawings that the editor does not keep became pictures of them."
_PLACED = ("vertical-align", "margin", "float")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a picture in place of each drawing of which one was made."""
    for element in draft.subject.each("svg"):
        outer = draft.trip.piece.source_map.outer_span(element)
        icon = None if outer is None else draft.icons.get(draft.subject.typed(outer))
        if outer is None or icon is None or draft.kept(element) is not None:
            continue
        style = "; ".join(f"{name}: {value}" for name, value in draft.look(element).items() if name.startswith(_PLACED))
        look = f' style="{escape_attribute(style)}"' if style else ""
        yield Splice(
            outer,
            f'<img src="{escape_attribute(icon.address)}" alt="{escape_attribute(words_of(element))}" '
            f'width="{icon.width}" height="{icon.height}"{look}>',
        )


def words_of(drawing: Element) -> str:
    """Return what a drawing says: its label, or its letters."""
    label = drawing.attributes.get("aria-label", "")
    return label or " ".join("".join(n.data for n in Tree(drawing).nodes() if isinstance(n, Text)).split())
