"""Spaces in an address."""

from __future__ import annotations

import re
from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.markup.vocabulary import ATTRIBUTES, GLOBAL_ATTRIBUTES
from verse_tray.model.findings import Severity
from verse_tray.model.patterns import lazy
from verse_tray.model.spans import Span
from verse_tray.piece.addresses import addresses
from verse_tray.piece.meant_address import HOST
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="Some programs end the address at the space: the link leads nowhere, the picture is missing.",
    advice="Write %20 for a space in an address.",
    bad='<img src="https://pictures.gannetcove.example/frame on rock.png" alt="A frame on a rock">',
    good='<img src="https://pictures.gannetcove.example/frame%20on%20rock.png" alt="A frame on a rock">',
    mends=True,
)
_HOST = lazy(r"\s*(?:[a-z][a-z0-9+.-]*:)?//([^/?#]*)", re.IGNORECASE)
_FILE = lazy(r"[^\s/]*[./]|.*\.\w{2,5}\Z")
_INNER = lazy(r"(?<=\S) +(?=\S)")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each address with spaces between other signs; those around it browsers take away."""
    for element, name, value in addresses(subject):
        if (cut := _cut(subject, element, name)) is not None:
            yield cut
            continue
        spaces = list(_INNER.finditer(value)) if " " in value and value.lstrip()[:1] != "#" else []
        if not spaces:
            continue
        host = _HOST.match(value)
        named = host[1].strip() if host is not None else _bare_host(value)
        if named and spaces[0].start() < value.index(named) + len(named):
            at = Span(*spaces[0].span())
            yield Mistake(
                subject.value_span(element, name, at),
                f"There is a space in the host of this address, “{named}”: browsers go nowhere. Write the "
                "host's right name.",
                Severity.ERROR,
            )
            continue
        if scheme_of(value) in ("javascript", "data") or "{{" in value or "{%" in value or "<%" in value:
            continue
        places = [subject.value_span(element, name, Span(*match.span())) for match in spaces]
        mend = [Splice(place, "%20" * (place.end - place.start)) for place in places if place is not None]
        exact = len(mend) == len(spaces) and all(not subject.typed(splice.span).strip(" ") for splice in mend)
        count = "a space" if len(spaces) == 1 else f"{len(spaces)} spaces"
        yield Mistake(
            places[0],
            f"This address holds {count}, where some programs end it. Write %20.",
            mend=tuple(mend) if exact else (),
        )


def _bare_host(value: str) -> str:
    """Return what would be a host, were there no space in it and a scheme in front; empty for a path."""
    first = re.split(r"[/?#]", value.strip(), maxsplit=1)[0]
    return first if " " in first and HOST.fullmatch(first.replace(" ", "")) else ""


def _cut(subject: Subject, element: Element, name: str) -> Mistake | None:
    """Return the mistake of an address without quotes that a space has cut: the rest became attributes."""
    found = subject.attribute(element, name)
    if found is None or found.value is None or subject.source.text[found.value.start - 1] in "\"'":
        return None
    rest = []
    known = GLOBAL_ATTRIBUTES | ATTRIBUTES.get(element.name, frozenset())
    for other, place in subject.piece.source_map.attributes(element.key).items():
        if place.whole.start > found.whole.end:
            if place.value is not None or other in known:
                break
            rest.append(place.whole)
    if not any(_FILE.match(subject.typed(each)) for each in rest):
        return None
    whole = Span(found.value.start, rest[-1].end)
    typed = " ".join(subject.typed(whole).split())
    return Mistake(
        found.whole,
        f"This address has no quotes around it, so it ends at the space: {subject.typed(found.value)[:60]}. Write "
        f'{name}="{typed.replace(" ", "%20")[:120]}".',
        Severity.ERROR,
        mend=() if '"' in typed else (Splice(whole, f'"{typed.replace(" ", "%20")}"'),),
        covers=(found.whole, *rest),
    )
