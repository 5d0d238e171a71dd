"""Names that scripts look for, written as the editor will write them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.edit.apart import with_prefixes
from verse_tray.fitting.draft import Draft
from verse_tray.journeys.survival.behaviour import code_led_astray
from verse_tray.markup.splice import Splice
from verse_tray.model.spans import Span

NAME = "names-for-scripts"
SENTENCE = "Names that scripts look for begin as the editor lets them begin, so scripts find them."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the text with the prefixes that its editor puts before names, where scripts that stay miss these names."""
    trip = draft.trip
    missed = {
        name for names in code_led_astray(trip.piece.written_view, trip.published_view).values() for name in names
    }
    ids, classes = (_prefix(draft, name, missed) for name in ("id", "class"))
    if ids or classes:
        text = draft.subject.source.text
        yield Splice(Span(0, len(text)), with_prefixes(trip.piece, ids=ids, classes=classes))


def _prefix(draft: Draft, attribute: str, missed: set[str]) -> str:
    """Return what the editor puts before missed names; nothing where it does otherwise with any of them."""
    found = set()
    for element in draft.elements if missed else ():
        kept = draft.kept(element)
        before, after = (e.attributes.get(attribute, "").split() if e is not None else [] for e in (element, kept))
        if len(before) == len(after):
            pairs = zip(before, after, strict=True)
            found |= {new.removesuffix(old) if new.endswith(old) else "" for old, new in pairs if old in missed}
    return found.pop() if len(found) == 1 else ""
