"""Pictures that an editor does not keep, as links to them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import escape_attribute, escape_text
from verse_tray.markup.splice import Splice

NAME = "links-for-pictures"
SENTENCE = "Pictures that the editor does not keep became links to them, in the words of their alternative text."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a link in place of each picture that says what it shows; within a link its words alone."""
    for element in draft.subject.each("img"):
        address, said = element.attributes.get("src", "").strip(), element.attributes.get("alt", "").strip()
        outer = draft.trip.piece.source_map.outer_span(element)
        if outer is None or not said or not draft.is_lost(element):
            continue
        if any(each.name == "a" for each in draft.subject.around(element)):
            yield Splice(outer, escape_text(said))
        elif scheme_of(address) in ("https", "http"):
            yield Splice(outer, f'<a href="{escape_attribute(address)}">{escape_text(said)}</a>')
