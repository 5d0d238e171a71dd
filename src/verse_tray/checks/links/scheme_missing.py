"""An address without its scheme, which becomes a path on the site."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.splice import Splice
from verse_tray.model.findings import Severity
from verse_tray.model.spans import Span
from verse_tray.piece.addresses import addresses
from verse_tray.piece.meant_address import BROKEN, HOST, MAIL, MISSPELT, TWICE, meant_scheme
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.ERROR,
    readers="The link leads to a page of the site itself that does not exist.",
    advice="Write https:// in front of a host, mailto: in front of a mail address.",
    bad='<a href="www.gannetcove.example/walks">Walks</a>',
    good='<a href="https://www.gannetcove.example/walks">Walks</a>',
    mends=True,
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each address that begins like a host, is a mail address, or has half a scheme."""
    for element, name, value in addresses(subject):
        if _is_whole(value):
            continue
        at = len(value) - len(value.lstrip())
        span = subject.value_span(element, name, Span(at, len(value)))
        found = subject.attribute(element, name)
        start = None if found is None or found.value is None or span is None else span.start
        whole = () if found is None else (found.whole,)
        if match := HOST.match(value):
            message = (
                f"{match[1]} has no scheme, so browsers look for a page of that name on the site. Write https:// first."
            )
            yield Mistake(span, message, mend=_put(start, "https://"), covers=whole)
        elif MAIL.match(value) and name == "href":
            message = f"{value.strip()} is a mail address without mailto: in front, so it leads to a page of the site."
            yield Mistake(span, message, mend=_put(start, "mailto:"))
        elif match := BROKEN.match(value):
            message = f"“{match[0].strip()}” is no scheme that browsers know. Write {match[1].lower()}://."
            yield Mistake(span, message)
        elif match := TWICE.match(value):
            message = f"This address begins with a scheme twice, so browsers look for a host named “{match[1]}”. "
            twice = () if start is None else (Splice(Span(start, start + match.end() - at - len(match[2])), ""),)
            yield Mistake(span, f"{message}Write {match[2]} once.", mend=twice)
        elif (match := MISSPELT.match(value)) and (meant := meant_scheme(match[1].lower())):
            message = f"“{match[1]}:” is no scheme that browsers know, so a click does nothing. Write {meant}:."
            right = () if start is None else (Splice(Span(start, start + len(match[1])), meant),)
            yield Mistake(span, message, mend=right)


def _is_whole(value: str) -> bool:
    """Tell whether an address begins as most do, with all that belongs there."""
    for scheme in ("https://", "http://"):
        if value.startswith(scheme):
            return not value.startswith(("/", "http"), len(scheme))
    return value.startswith(("#", "/", "mailto:", "tel:"))


def _put(at: int | None, text: str) -> tuple[Splice, ...]:
    return () if at is None else (Splice(Span(at, at), text),)
