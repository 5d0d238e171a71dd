"""Frames, films and sounds that go, as links to them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import escape_attribute, escape_text
from verse_tray.markup.splice import Splice

NAME = "links-for-frames"
SENTENCE = "Frames, films and sounds that the editor does not keep became links to them."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield a link in place of each."""
    for element in draft.subject.each("iframe", "video", "audio", "embed"):
        address = element.attributes.get("src", "").strip()
        outer = draft.trip.piece.source_map.outer_span(element)
        if outer is None or not draft.is_lost(element) or scheme_of(address) not in ("https", "http"):
            continue
        said = element.attributes.get("title", "").strip() or address
        yield Splice(outer, f'<p><a href="{escape_attribute(address)}">{escape_text(said)}</a></p>')
