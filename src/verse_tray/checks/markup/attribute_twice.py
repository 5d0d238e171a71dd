"""An attribute that a tag has twice: the second counts for nothing."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.attributes import attribute_spans
from verse_tray.markup.names import fold_name
from verse_tray.markup.tokens import Kind
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.odd_tags import is_templated
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Only the first of the two counts; what the second says is lost.",
    advice="Put both values into one attribute.",
    bad='<p class="hint" class="wide">Wear boots.</p>',
    good='<p class="hint wide">Wear boots.</p>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for the second of two attributes of one name."""
    text = subject.source.text
    for token in subject.tokens:
        if token.kind is not Kind.START or text.count("=", token.start, token.end) < 2:
            continue
        tag = text[token.start : token.end]
        if _has_no_two_alike(tag) or is_templated(tag):
            continue
        spans = attribute_spans(text, Span(token.start, token.end))
        # between the attributes that count, only white space should stand
        at = token.start + 1 + len(token.name)
        for attribute in spans.values():
            between = text[at : attribute.whole.start]
            at = attribute.whole.end
            yield from _second(subject, between, attribute.whole.start - len(between), spans.keys())
        yield from _second(subject, text[at : token.end].rstrip(">"), at, spans.keys())


_PLAIN = lazy(r"<[^\s/>\"'<=]+((?:[\t\n\f\r ]++[^\s/>\"'<=]++(?:=(?:\"[^\"]*+\"|'[^']*+'))?+)*+)[\t\n\f\r ]*+/?>")
_NAMES = lazy(r"[\t\n\f\r ]++([^\s/>\"'<=]++)(?:=(?:\"[^\"]*+\"|'[^']*+'))?+")


def _has_no_two_alike(tag: str) -> bool:
    """Tell whether a tag is a plain one, as most are, and all of its attributes have other names."""
    plain = _PLAIN.fullmatch(tag)
    if plain is None:
        return False
    names = _NAMES.findall(plain[1])
    return len({fold_name(name) for name in names}) == len(names)


def _second(subject: Subject, between: str, start: int, names: object) -> Iterator[Mistake]:
    found = re.match(r"[\s\"'/]*([^\s/=<>\"']+)", between)
    if found is not None and fold_name(found[1]) in names:  # type: ignore[operator]
        span = Span(start + found.start(1), start + found.end(1))
        message = (
            f"The tag has {found[1]} already, so this second one counts for nothing. Put both values into the first."
        )
        yield Mistake(span, message)
