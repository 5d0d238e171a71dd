"""Captions of tables that go, as paragraphs above their tables."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.serialise import escape_attribute
from verse_tray.markup.splice import Splice

NAME = "captions-above"
SENTENCE = "Captions of tables became paragraphs above them."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield each caption that goes by itself in a paragraph in front of its table."""
    for caption in draft.subject.each("caption"):
        table, inner = draft.subject.parents.get(caption.key), draft.inner(caption)
        source_map = draft.trip.piece.source_map
        outer = source_map.outer_span(caption)
        if table is None or inner is None or outer is None or not draft.is_lost(caption):
            continue
        whole = source_map.outer_span(table)
        if whole is None or table.name != "table" or not draft.probe.keeps("table"):
            continue
        own = caption.attributes.get("style", "").rstrip("; ")
        wide = draft.look(table).get("width", table.attributes.get("width", "")).strip() == "100%"
        usual = "text-align: center; margin: 0" if wide else "margin: 0"  # a narrow table is not as wide as the page
        style = f"{usual}; {own}" if own else usual
        name = draft.probe.first_kept("p", "div")
        yield Splice(outer, "")
        words = draft.subject.source.text[inner.start : inner.end]
        yield draft.put(whole.start, f'<{name} style="{escape_attribute(style)}">{words}</{name}>' if name else words)
