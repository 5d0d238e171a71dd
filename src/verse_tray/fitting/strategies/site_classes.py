"""Classes of the site in place of styles that go."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.fitting.draft import Draft
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.patterns import lazy
from verse_tray.reading.frames import frame_of
from verse_tray.style.expand import expand

NAME = "site-classes"
SENTENCE = "Classes that the site has a style for stand for styles that go."
_ONE_CLASS = lazy(r"(?:(?P<element>[a-z][a-z0-9]*))?\.(?P<name>[A-Za-z_-][\w-]*)")


def rewrite(draft: Draft) -> Iterator[Splice]:
    """Yield the class that gives most of what an element loses, and little that it does not have."""
    known = dict(_classes(draft))
    if not known:
        return
    for element in draft.elements:
        if draft.kept(element) is None:
            continue
        lost = {n: value for n, value in draft.look(element).items() if draft.loses(element, n)}
        if not lost:
            continue
        wanted = {pair for name, value in lost.items() for pair in expand(name, value.removesuffix(" !important"))}
        best = max(known.items(), key=lambda each: _gain(element, wanted, *each), default=None)
        own = element.attributes.get("class", "").split()
        if best is None or _gain(element, wanted, *best) < 1 or best[0][1] in own:
            continue
        if draft.probe.keeps(element.name, **{"class": best[0][1]}):
            yield from draft.with_attributes(element, **{"class": " ".join([*own, best[0][1]])})


def _gain(element: Element, wanted: set[tuple[str, str]], key: tuple[str, str], given: set[tuple[str, str]]) -> int:
    """Return how many declarations a class gives that are wanted, less those that are not."""
    if key[0] not in ("", element.name):
        return -1
    return len(given & wanted) - len(given - wanted)


def _classes(draft: Draft) -> Iterator[tuple[tuple[str, str], set[tuple[str, str]]]]:
    """Yield the classes that the page of an editor has rules for: element and class, and what they declare."""
    for sheet in frame_of(draft.trip.editor).sheets:
        for rule in sheet.rules:
            match = None if rule.around else _ONE_CLASS.fullmatch(rule.selectors.strip())
            if match is not None:
                given = {pair for each in rule.declarations for pair in expand(each.name, each.value)}
                yield (match["element"] or "", match["name"]), given
