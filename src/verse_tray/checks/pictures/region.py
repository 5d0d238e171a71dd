"""A picture, or anything of a fixed width, that is wider than the region that holds it."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.subject import Subject
from verse_tray.style.values import pixels

RULE = Rule(
    Severity.WARNING,
    readers="It sticks out of its column, over what stands beside it, or is cut off.",
    advice="Choose a wider region, or write max-width: 100% and height: auto.",
    bad='<img src="https://pictures.gannetcove.example/cove.png" alt="The cove" width="1000" height="400">',
    good='<img src="https://pictures.gannetcove.example/cove.png" alt="The cove" width="600" height="240">',
)
_SIZED = ("img", "iframe", "video", "table", "object", "embed", "canvas")


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each element with a stated or styled width above the region's, where that is known."""
    if subject.region is None:
        return
    for element in subject.each(*_SIZED):
        winners = subject.winners(element)
        if winners.get("max-width", ("none",))[0] != "none":
            continue
        stated = element.attributes.get("width", "").strip().removesuffix("px")
        width = float(stated[:6]) if stated.isdecimal() else None
        if "width" in winners:
            width = pixels(winners["width"][0])
        if width is not None and width > subject.region:
            yield Mistake(
                subject.name_span(element),
                f"This <{element.name}> is {width:,.0f} pixels wide, and the region holds {subject.region:,}: it "
                f"sticks out by {width - subject.region:,.0f}. Choose a wider region, or write max-width: 100% and "
                "height: auto.",
            )
