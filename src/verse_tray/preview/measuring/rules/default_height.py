"""Frames that nobody gave a height: browsers make them 150 pixels high (CSS 2.2, 10.6.2)."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_HEIGHT = 150.0


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield frames and the like whose height came to the default."""
    for each in page.elements:
        if each.shown and each.default_height and abs(each.default_height - _HEIGHT) < 1:
            yield Seen(
                "frame-height",
                each.number,
                f"This <{each.name}> has no height that counts here, so browsers make it 150 px high and what it shows "
                'is cut. Give it style="aspect-ratio: 16 / 9; height: auto" or a height in pixels.',
                Severity.WARNING,
            )
