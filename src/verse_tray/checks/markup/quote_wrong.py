"""Quotes of the wrong kind around, or inside, an attribute's value."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.splice import Splice
from verse_tray.markup.tokens import Kind
from verse_tray.markup.vocabulary import ATTRIBUTES, GLOBAL_ATTRIBUTES
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.odd_tags import CURLY, OddTag, odd_tags, swallowed
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The value ends at the wrong place: the link, the style or the picture does not work.",
    advice="Use straight quotes around a value, and the other kind of straight quotes inside it.",
    bad="<p><a href=”https://gannetcove.example/walks”>Walks</a></p>",
    good='<p><a href="https://gannetcove.example/walks">Walks</a></p>',
    mends=True,
)
_NO_EQUALS = lazy(r"([A-Za-z][\w-]*)[\"']")
_KNOWN = GLOBAL_ATTRIBUTES.union(*ATTRIBUTES.values())
_CURLY = lazy(rf"=\s*([{CURLY}])([^{CURLY}\"<>]*)([{CURLY}])(?=[\s/>])")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each tag whose quotes are curly, or end a value too early."""
    text = subject.source.text
    curly = any(sign in text for sign in CURLY)
    for token in subject.tokens if curly else ():
        if token.kind is not Kind.START:
            continue
        found = list(_CURLY.finditer(text, token.start, token.end))
        if found:
            mend = [Splice(Span(*match.span(group)), '"') for match in found for group in (1, 3)]
            yield Mistake(
                Span(found[0].start(1), found[-1].end()),
                f"Curly quotes ({found[0][1]}…{found[0][3]}) do not enclose a value: browsers take them for a part of "
                "it, and end it at the first space. Use straight quotes.",
                mend=tuple(mend),
            )
    for odd in odd_tags(subject):
        if not swallowed(subject, odd):
            yield _told(subject, odd)


def _told(subject: Subject, odd: OddTag) -> Mistake:
    typed = subject.typed(odd.at)
    match = _NO_EQUALS.match(typed)
    if match is not None and match[1].lower() in _KNOWN:
        return Mistake(odd.at, f"The = between {match[1]} and its value is missing, so {match[1]} has none. Write it.")
    if subject.source.text[odd.token.start : odd.at.start].rstrip().endswith("="):
        return Mistake(odd.at, "This value ends with a quote and begins with none. Write one in front of it.")
    if odd.before is None or odd.before.value is None:
        return Mistake(odd.at, f"A quote stands where none belongs, so this is no attribute. {_ADVICE}")
    name = subject.typed(odd.before.name)
    opened = subject.source.text[odd.before.value.start - 1]
    if subject.typed(odd.before.value).endswith("="):
        message = (
            f"The value of {name} opens with {opened} and goes on to the next {opened}, past the quote of the other "
            "kind."
        )
        within = (Span(at, at + 1) for at in range(odd.before.whole.start, odd.at.end))
        return Mistake(odd.before.whole, f"{message} Close it with {opened}.", covers=tuple(within))
    return Mistake(
        odd.at,
        f"The value of {name} ends in front of this, at a quote inside it: what follows is taken for other attributes, "
        f"and does nothing. {_ADVICE}",
    )


_ADVICE = "Use single quotes inside a value that stands in double ones, or write &quot;."
