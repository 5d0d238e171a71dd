"""A script, a style sheet or a frame whose address is a path, or a link to the author's own machine."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.checks.rule import Mistake, Rule
from verse_tray.model.findings import Severity
from verse_tray.piece.pictures import is_local, is_own
from verse_tray.piece.subject import Subject

RULE = Rule(
    Severity.WARNING,
    readers="The site looks for the file beside its own page and does not find it: what it does is missing. A "
    "link to your own machine does nothing.",
    advice="Paste what is in it (verse-tray join puts the parts together), or upload it and write its hosted address.",
    bad='<script src="js/tides.js"></script><p>Low water at six.</p>',
    good='<script src="https://scripts.gannetcove.example/tides.js"></script><p>Low water at six.</p>',
)
_LOADS = (("script", "src"), ("link", "href"), ("iframe", "src"), ("embed", "src"), ("object", "data"))


def check(subject: Subject) -> Iterator[Mistake]:
    """Yield a mistake for each path of what a page loads, but for pictures, and each link to the own machine."""
    for name, attribute in _LOADS:
        for element in subject.each(name):
            address = element.attributes.get(attribute, "")
            if is_local(address):
                yield Mistake(
                    subject.attribute_span(element, attribute),
                    f"{address.strip()[:80]} is a path, not an address: readers' browsers look for it beside the page "
                    "it is pasted into. Paste what is in it (verse-tray join puts parts together), or write its hosted "
                    "address.",
                )
    for element in subject.each("a", "area"):
        address = element.attributes.get("href", "")
        if is_own(address):
            yield Mistake(
                subject.attribute_span(element, "href"),
                f"{address.strip()[:80]} is a path on your own machine or in its network: a click leads readers "
                "nowhere. Upload the file, and write its hosted address.",
            )
