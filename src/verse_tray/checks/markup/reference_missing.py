"""A reference to something in the piece that is not there."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.phrasing import Guesses
from verse_tray.model.spans import Span
from verse_tray.piece.addresses import may_be_filled
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="What it refers to is missing: no fill, no drawing, a label that belongs to no field.",
    advice="Spell the id alike at both places, or paste what it belongs to as well.",
    bad='<label for="mail">Mail</label> <input id="email" type="email">',
    good='<label for="email">Mail</label> <input id="email" type="email">',
)
_URL = lazy(r"url\(\s*[\"']?#([^\"')\s]+)[\"']?\s*\)")
_LISTS = frozenset("aria-labelledby aria-describedby aria-controls aria-owns headers".split())
_ONE = frozenset(("for", "list", "form", "popovertarget", "aria-activedescendant"))
_DRAWN = frozenset("use textPath mpath animate animateMotion animateTransform set image feImage pattern".split()) | {
    name + "Gradient" for name in ("linear", "radial")
}


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each ``url(#…)``, drawing's reference, label and the like that names no element."""
    guesses = Guesses()
    for element in subject.elements:
        for name, value in element.attributes.items():
            for wanted, at in _wanted(element.name, name, value):
                if not subject.is_place(wanted) and wanted not in subject.script_words:
                    yield _missing(subject, guesses, wanted, subject.value_span(element, name, at))
    for code, _ in subject.sheets:
        for match in _URL.finditer(code.text):
            if not subject.is_place(match[1]) and match[1] not in subject.script_words:
                yield _missing(subject, guesses, match[1], code.at(Span(*match.span(1))))


def _wanted(element: str, name: str, value: str) -> Iterator[tuple[str, Span]]:
    """Yield the identifiers that an attribute names, with their places in its value."""
    if "url(" in value:
        for match in _URL.finditer(value):
            yield match[1], Span(*match.span(1))
    elif name in _LISTS or name in _ONE:
        at = 0
        for word in value.split() if name in _LISTS else [value.strip()]:
            at = value.index(word, at)
            if word and not may_be_filled(word):
                yield word, Span(at, at + len(word))
            at += len(word)
    elif name in ("href", "xlink:href") and element in _DRAWN and value.startswith("#") and len(value) > 1:
        yield value[1:], Span(1, len(value))


def _missing(subject: Subject, guesses: Guesses, wanted: str, span: Span | None) -> Mistake:
    near = guesses.nearest(wanted, subject.identifiers, 0.6)
    hint = f"Did you mean “{near}”?" if near else "Paste what it belongs to as well, or take the reference away."
    return Mistake(span, f"Nothing in the piece has the id “{wanted[:60]}” that this refers to. {hint}")
