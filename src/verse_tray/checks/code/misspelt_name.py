"""A script that names an identifier, a class or a function which is spelt otherwise where it stands."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import Guesses
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject
from verse_tray.script.reading import Sought, selector_of
from verse_tray.style.names import names_in

RULE = Rule(
    Severity.ERROR,
    readers="The script finds nothing and stops, or a click does nothing.",
    advice="Spell the name alike at both places.",
    bad="<p id=next-walk></p><script>document.getElementById('nextwalk').textContent = 'Saturday';</script>",
    good="<p id=next-walk></p><script>document.getElementById('next-walk').textContent = 'Saturday';</script>",
)
_LEAST = 0.75  # how alike two names are of which one is taken for a slip of the hand
_SHORTEST = 4


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each name in scripts and handlers that nothing has, and that something nearly has."""
    if not subject.scripts and not subject.handlers:
        return
    known = _Known(subject)
    for sought, place in subject.sought:
        if subject.targets.get(selector_of(sought)) != []:  # found, or not understood
            continue
        for mark, name, at in _parts(sought):
            names = subject.identifiers if mark == "#" else subject.classes
            near = known.near(name, names) if not known.is_made(name) else None
            if near is not None:
                what = "identifier" if mark == "#" else "class"
                yield Mistake(
                    place if place is None else Span(place.start + at.start, place.start + at.end),
                    f"No element has the {what} “{name}” that this script looks for. Did you mean “{near}”?",
                )
    made: set[str] = set().union(*(reading.declared.keys() | reading.made for _, reading in subject.script_readings))
    for element, attribute, reading in subject.handlers:
        for name, span in reading.called.items():
            if name not in made and (near := known.near(name, made)) is not None:
                yield Mistake(
                    subject.value_span(element, attribute, span),
                    f"No script of the piece has a function “{name}”, so {attribute} does nothing. Did you mean "
                    f"“{near}”?",
                )


def _parts(sought: Sought) -> list[tuple[str, str, Span]]:
    """Return the identifiers and classes that a script names: mark, name, and its place in what it names."""
    if sought.how in ("id", "class"):
        return [("#" if sought.how == "id" else ".", sought.name, Span(0, len(sought.name)))]
    return [(each.mark, each.name, each.span) for each in names_in(sought.name)]


class _Known:
    """What a piece holds, to find names again that were meant."""

    def __init__(self, subject: Subject) -> None:
        self._subject = subject
        self._guesses = Guesses()
        self._sought = Counter(name for sought, _ in subject.sought for _, name, _ in _parts(sought))

    def is_made(self, name: str) -> bool:
        """Tell whether a script may make something of that name: it names it elsewhere as well."""
        return self._subject.script_words[name] > self._sought[name]

    def near(self, name: str, names: Collection[str]) -> str | None:
        """Return what a name was meant to be; None where something has it, or nothing is like it."""
        if name in names or len(name) < _SHORTEST or any(site.names(name) for site in self._subject.sites):
            return None
        found = self._guesses.nearest(name, names, _LEAST)
        if found is None or (found.strip("0123456789") == name.strip("0123456789") and found.lower() != name.lower()):
            return None
        return found
