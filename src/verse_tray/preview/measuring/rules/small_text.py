"""Text that is too small to read."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import counted
from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.preview.measuring.observation import Seen

_SMALL, _TINY = 12.0, 9.5  # pixels


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield the first element of each text size below 12 pixels; raised and lowered signs are meant to be small."""
    told: dict[float, list[ElementFacts]] = {}
    for each in page.elements:
        if each.shown and each.text > 1 and each.size < _SMALL and each.name not in ("sup", "sub", "rt"):
            told.setdefault(each.size, []).append(each)
    for size, elements in told.items():
        severity = Severity.WARNING if size < _TINY else Severity.NOTE
        more = f" and of {counted(len(elements) - 1, 'more element')}" if len(elements) > 1 else ""
        message = f"The text of this <{elements[0].name}>{more} is {size:.3g} px high. Below 12 px many cannot read it."
        yield Seen("small-text", elements[0].number, message, severity, -size)
