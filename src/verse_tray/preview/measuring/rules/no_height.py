"""Boxes that have come to nothing."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_NOT_BOXES = ("none", "inline", "contents", "table-column", "table-column-group")
_SILENT = frozenset("br col colgroup input link meta script source style template title track wbr".split())


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield boxes without height or width that have a ground to show, or whose contents flow out of them."""
    for each in page.elements:
        if each.display in _NOT_BOXES or each.name in _SILENT or not each.shown or (each.height and each.width):
            continue
        missing = "height" if not each.height else "width"
        if each.inside and each.painted:
            message = (
                f"This <{each.name}> has no {missing} although it holds something: what is in it floats or is "
                "positioned, "
                "so its ground is not seen and the text behind it moves up. Give it display: flow-root."
            )
            yield Seen("no-height", each.number, message, Severity.WARNING)
        elif each.painted and not each.inside:
            message = (
                f"This <{each.name}> has a ground and no {missing}: readers see nothing of it. Give it a {missing}, or "
                "something to hold."
            )
            yield Seen("no-height", each.number, message, Severity.WARNING)
