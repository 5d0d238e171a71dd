"""Links that a page would make players of, with the mark that leaves them alone."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.journeys.steps.players import film_of
from verse_tray.markup.splice import Splice

NAME = "marked-links"
SENTENCE = "Links to films got the mark by which they stay links."


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the long form of each such address, the mark behind it; nothing where the page knows no mark."""
    rules = draft.trip.editor.profile.publish.players
    if rules is None or not rules.leave_alone or not any(e.rule == "players/link" for e in draft.trip.changes):
        return
    for element in draft.subject.each("a"):
        href = element.attributes.get("href", "")
        film = film_of(rules, href)
        if film is not None and draft.kept(element) is None and rules.leave_alone not in href:
            address = href.strip() if film.long else rules.long.replace("{id}", film.name)
            front, mark, fragment = address.partition("#")
            yield from draft.with_attributes(element, href=f"{front}&{rules.leave_alone}{mark}{fragment}")
