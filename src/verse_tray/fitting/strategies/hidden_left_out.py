"""Parts that are hidden, and would come to light."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice

NAME = "hidden-left-out"
SENTENCE = "Parts that are hidden, and would show in this editor, were left out."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield what takes elements away that nobody was to see, and that lose what hides them."""
    gone: set[int] = set()
    for element in draft.outside(gone):
        hidden = "hidden" in element.attributes
        if not hidden and draft.look(element).get("display", "").split(" ")[0] != "none":
            continue
        if draft.is_active and draft.can_come(element):
            continue  # readers were to see it some time
        kept = draft.kept(element)
        still = kept is not None and ("hidden" in kept.attributes if hidden else not draft.loses(element, "display"))
        outer = draft.trip.piece.source_map.outer_span(element)
        if not still and outer is not None:
            gone.add(element.key)
            yield Splice(outer, "")
