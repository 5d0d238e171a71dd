"""A frame without a name."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.NOTE,
    readers="Screen readers say only “frame”, and nothing of what is in it.",
    advice="Say in title what the frame shows.",
    bad='<iframe src="https://films.gannetcove.example/limpets"></iframe>',
    good='<iframe src="https://films.gannetcove.example/limpets" title="Film: limpets moving house"></iframe>',
)


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each frame that readers see and that has no title."""
    for element in subject.each("iframe"):
        attributes = element.attributes
        if any(attributes.get(name, "").strip() for name in ("title", "aria-label", "aria-labelledby")):
            continue
        if attributes.get("aria-hidden") == "true" or "hidden" in attributes or attributes.get("width") in ("0", "1"):
            continue
        if "none" in subject.winners(element).get("display", ("",))[0]:
            continue
        yield Mistake(subject.name_span(element), "This frame has no title. Say there what it shows.")
