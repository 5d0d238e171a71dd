"""A link that opens a new window without ``rel``."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.markup.splice import Splice
from verse_tray.markup.tree import Element
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import nearest
from verse_tray.model.spans import Span
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.NOTE,
    readers="In older browsers the page that opens can lead the reader's first window elsewhere.",
    advice='Write rel="noopener" beside target="_blank".',
    bad='<a href="https://gannetcove.example" target="_blank">Gannet Cove</a>',
    good='<a href="https://gannetcove.example" target="_blank" rel="noopener">Gannet Cove</a>',
    mends=True,
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each link to another site in a new window whose rel names neither noopener nor noreferrer."""
    for element in subject.each("a", "area", "form"):
        target = element.attributes.get("target", "").strip().lower()
        if target in _MEANT_BLANK or (target[:1] == "_" and nearest(target, _WINDOWS, 0.7) == "_blank" != target):
            yield Mistake(
                subject.attribute_span(element, "target"),
                f"target=“{element.attributes['target']}” is the name of a window: all such links open in one and the "
                "same. Write _blank for a new one.",
                Severity.WARNING,
                mend=_renamed(subject, element),
            )
            continue
        if target != "_blank" or not _leads_away(element):
            continue
        rel = element.attributes.get("rel", "").lower().split()
        if not {"noopener", "noreferrer", "opener"} & set(rel):
            yield Mistake(
                subject.attribute_span(element, "target"),
                'This link opens a new window without rel="noopener": in older browsers the new page can lead this '
                "window elsewhere.",
                mend=_mend(subject, element),
            )


_WINDOWS = ("_blank", "_self", "_parent", "_top", "_unfencedtop")
_MEANT_BLANK = frozenset(("blank", "new", "_new", "_blanc", "__blank", "-blank", "_ blank", "blank_"))


def _renamed(subject: Subject, element: Element) -> tuple[Splice, ...]:
    """Return what writes ``_blank``, and what belongs beside it."""
    target = subject.attribute(element, "target")
    if target is None or target.value is None:
        return ()
    rel = element.attributes.get("rel", "").lower().split()
    needed = _leads_away(element) and not {"noopener", "noreferrer", "opener"} & set(rel)
    return (Splice(target.value, "_blank"), *(_mend(subject, element) if needed else ()))


def _leads_away(element: Element) -> bool:
    address = element.attributes.get("href", element.attributes.get("action", "")).strip().lower()
    return address.startswith(("http:", "https:", "//"))


def _mend(subject: Subject, element: Element) -> tuple[Splice, ...]:
    rel, target = subject.attribute(element, "rel"), subject.attribute(element, "target")
    if rel is None:
        return () if target is None else (Splice(Span(target.whole.end, target.whole.end), ' rel="noopener"'),)
    if rel.value is None or subject.source.text[rel.whole.end - 1] not in "\"'":
        return (Splice(rel.whole, f'rel="{" ".join([*element.attributes["rel"].split(), "noopener"])}"'),)
    return (Splice(Span(rel.value.end, rel.value.end), " noopener" if rel.value.end > rel.value.start else "noopener"),)
