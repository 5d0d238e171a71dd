"""Names that scripts look for, written as the editor will write them."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.edit.apart import Names, with_prefixes
from verse_tray.fitting.draft import Draft
from verse_tray.journeys.survival.behaviour import code_led_astray
from verse_tray.markup.splice import Splice
from verse_tray.model.spans import Span

NAME = "names-for-scripts"
SENTENCE = "Names that scripts look for begin as the editor lets them begin, so scripts find them."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the text with what its editor puts before names, where scripts that stay miss these names."""
    trip = draft.trip
    astray = code_led_astray(trip.piece.written_view, trip.published_view)
    missed = {name for names in astray.values() for name in names}
    given = [names for names in (_given(draft, attribute, missed) for attribute in ("id", "class")) if names.prefix]
    if given:
        text = draft.subject.source.text
        yield Splice(Span(0, len(text)), with_prefixes(trip.piece, given))


def _given(draft: Draft, attribute: str, missed: set[str]) -> Names:
    """Return the missed names of a kind, with what the editor puts before them; none where it does otherwise."""
    names, prefixes = set[str](), set[str]()
    for element in draft.elements if missed else ():
        kept = draft.kept(element)
        before, after = (e.attributes.get(attribute, "").split() if e is not None else [] for e in (element, kept))
        for old, new in zip(before, after, strict=True) if len(before) == len(after) else ():
            if old in missed:
                names.add(old)
                prefixes.add(new.removesuffix(old) if new.endswith(old) else "")
    if len(prefixes) != 1:
        return Names("")
    (prefix,), found = prefixes, frozenset(names)
    return Names(prefix, ids=found) if attribute == "id" else Names(prefix, classes=found)
