"""Quotation marks that browsers put around quotations, written where the element goes."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice

NAME = "quotes-written"
SENTENCE = "Quotation marks were written, since the element that makes them goes."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the marks in place of the tags of each quotation within a line (HTML standard, 15.3.4)."""
    for element in draft.subject.each("q"):
        if draft.kept(element) is None:
            inside = any(each.name == "q" for each in draft.subject.around(element))
            start, end = ("\u2018", "\u2019") if inside else ("\u201c", "\u201d")
            of, close = ("<span>", "</span>") if draft.probe.keeps("span") else ("", "")
            yield from draft.with_tags(element, of + start, end + close)
