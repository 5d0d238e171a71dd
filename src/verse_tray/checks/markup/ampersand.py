"""An ampersand that is not escaped."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES
from verse_tray.markup.references import decode
from verse_tray.markup.splice import Splice
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="What stands behind the ampersand can turn into another sign: &copy=2 becomes a copyright sign.",
    advice="Write &amp; for an ampersand.",
    bad="<p>Tides&curren and weather</p>",
    good="<p>Tides&amp;curren and weather</p>",
    mends=True,
)
_BARE = lazy(r"&(?=[A-Za-z#])(?:#?[A-Za-z0-9]*)(;?)")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each text and each value with ampersands that are not escaped."""
    if "&" not in subject.source.text:
        return
    for text in subject.texts:
        span = subject.own_span(text)
        if span is not None and "&" in (typed := subject.typed(span)):
            yield from _bare(subject, typed, span, attribute=False, address=False)
    for element in subject.elements:
        for name, value in element.attributes.items():
            if "&" in value and (found := subject.attribute(element, name)) is not None and found.value is not None:
                typed = subject.typed(found.value)
                yield from _bare(subject, typed, found.value, attribute=True, address=name in ADDRESS_ATTRIBUTES)


def _bare(subject: Subject, typed: str, span: Span, *, attribute: bool, address: bool) -> Iterator[Mistake]:
    changed, bare = [], []
    for match in _BARE.finditer(typed):
        if match[1] and _known(match[0]):
            continue
        follower = typed[match.end() : match.end() + 1]
        meant, _ = decode(match[0] + follower, attribute=attribute)
        if not match[1] and meant == match[0] + follower:
            bare.append(match)
        elif meant != match[0] + follower:
            changed.append((match, meant.removesuffix(follower)))
        else:
            bare.append(match)
    if not changed and not bare:
        return
    matches = [match for match, _ in changed] + bare
    mend = tuple(Splice(Span(at, at + 1), "&amp;") for at in sorted(span.start + m.start() for m in matches))
    first = changed[0][0].start() if changed else bare[0].start()
    place = Span(span.start + first, span.start + first + 1)
    if changed:
        match, meant = changed[0]
        message = f"Browsers read {match[0]} as “{meant}”, although it has no semicolon. Write &amp; for an ampersand."
        yield Mistake(place, message, mend=mend)
    elif address:
        message = "An ampersand in an address is written &amp; in HTML; browsers forgive this one, some editors do not."
        yield Mistake(place, message, Severity.NOTE, mend)
    else:
        shown = bare[0][0][:20]
        message = f"{shown} is no reference that HTML knows, so it shows as it stands. Write &amp; for an ampersand."
        yield Mistake(place, message, Severity.NOTE, mend)


@lru_cache(maxsize=256)
def _known(reference: str) -> bool:
    return decode(reference, attribute=False)[0] != reference
