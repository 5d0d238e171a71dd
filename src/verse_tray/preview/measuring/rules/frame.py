"""Frames smaller than what they show."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_SLACK = 1.5


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield the frame of the piece's own, and frames in the piece, where readers have to scroll inside them."""
    if page.box is not None:
        left, width, height, wide, tall = page.box
        if wide > width + _SLACK or tall > height + _SLACK:
            yield Seen(
                "frame-small",
                0,
                f"The piece needs {wide:.0f} × {tall:.0f} px, and its frame gives {width:.0f} × {height:.0f}: "
                "readers have "
                f"to scroll inside it to see the other {max(tall - height, wide - width):.0f} px. Make the piece "
                "smaller, "
                "or ask for a larger frame.",
                Severity.WARNING,
                max(tall - height, wide - width),
            )
        if left + width > page.window + _SLACK:
            cut = left + width - page.window
            yield Seen(
                "frame-wide",
                0,
                f"The frame that the page shows the piece in is {width:.0f} px wide and sticks out of the window by "
                f"{cut:.0f} px. The page does that, not the piece: keep what matters on the left.",
                Severity.NOTE,
                cut,
            )
    for each in page.elements:
        if each.holds and each.shown and max(each.holds) > _SLACK:
            wide, tall = (max(0.0, much) for much in each.holds)
            yield Seen(
                "frame-small",
                each.number,
                f"What this frame shows is {wide:.0f} px wider and {tall:.0f} px higher than the frame: readers "
                "have to "
                "scroll inside it. Make the frame larger.",
                Severity.WARNING,
                max(wide, tall),
            )
