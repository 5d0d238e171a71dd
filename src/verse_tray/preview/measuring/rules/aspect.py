"""Pictures shown in another shape than their file's."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_LEAST = 0.03  # share by which a shape may differ before anybody sees it


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield pictures that are stretched or squashed; those in whose place a box is shown have no file to compare."""
    for each in page.elements:
        if not each.natural or not each.content or each.fit != "fill" or min(*each.content, *each.natural) < 1:
            continue
        (width, height), (shown_width, shown_height) = each.natural, each.content
        stretched = (shown_width / shown_height) / (width / height)
        much = max(stretched, 1 / stretched) - 1
        if not each.shown or much <= _LEAST or abs(shown_width - shown_height * width / height) < 1.5:
            continue
        how = "wider" if stretched > 1 else "higher"
        message = (
            f"This picture is shown {shown_width:.0f} × {shown_height:.0f} px and its file is {width:.0f} × "
            f"{height:.0f}: "
            f"everything in it is {much:.0%} {how} than it should be. Give it height: auto, or object-fit: cover."
        )
        yield Seen("picture-shape", each.number, message, Severity.WARNING, much)
