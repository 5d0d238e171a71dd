"""What a page does for its readers, counted by what its code says, wherever it stands."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from verse_tray.editors.lists import is_event_handler
from verse_tray.journeys.survival.behaviour import DOERS, is_named, names_of
from verse_tray.markup.tree import own_text
from verse_tray.piece.view import View
from verse_tray.script.kinds import script_kind


def doings(view: View) -> Counter[tuple[str, str]]:
    """Return what does something: scripts, handlers, controls and frames, each by what it is and says."""
    found: Counter[tuple[str, str]] = Counter()
    for element in view.elements:
        attributes = element.attributes
        if element.name == "script":
            if script_kind(attributes):
                found["script", attributes.get("src") or own_text(element).strip()] += 1
        elif element.name in DOERS:
            found[element.name, attributes.get("src", "")] += 1
        for name, value in attributes.items():
            if is_event_handler(name):
                found[name, value] += 1
    return found


class Doing(NamedTuple):
    """What a page still does of what it did."""

    share: float
    """How much of it, 0 to 1; 1 where it did nothing."""
    missing: tuple[str, ...]
    """What it does not do any more, in words, each once."""


def still_doing(written: View, after: View) -> Doing:
    """Return how much of what a page does it still does."""
    before = doings(written)
    if not before:
        return Doing(1.0, ())
    kept = before & _at_work(written, after)
    missing = dict.fromkeys(
        _WORDS.get(kind, kind if is_event_handler(kind) else f"<{kind}>") for kind, _ in before - kept
    )
    return Doing(kept.total() / before.total(), tuple(missing))


_WORDS = {"script": "a script", "iframe": "a frame", "form": "a form", "input": "a field of a form"}


def _at_work(written: View, after: View) -> Counter[tuple[str, str]]:
    """Return what still does something: not the code that names elements which have gone or are called otherwise."""
    found, gone = doings(after), names_of(written) - names_of(after)
    for kind, code in list(found):
        if (kind == "script" or is_event_handler(kind)) and any(is_named(code, name) for name in gone):
            del found[kind, code]
    return found
