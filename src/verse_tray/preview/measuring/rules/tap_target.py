"""Things to press that a finger misses (WCAG 2.2, 2.5.8)."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.preview.measuring.observation import Seen

_LEAST = 24.0  # pixels
_PHONE = 600  # pixels; wider windows mostly have a mouse


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield links and controls below 24 by 24 pixels, but those in a sentence and those with room around them."""
    if page.window > _PHONE:
        return
    targets = [each for each in page.elements if each.target is not None and each.shown]
    for each in targets:
        assert each.target is not None
        width, height = each.target
        if (
            min(width, height) >= _LEAST - 0.5
            or each.sentence
            or not any(other is not each and _is_near(each, other) for other in targets)
        ):
            continue
        message = (
            f"This <{each.name}> is {width:.0f} × {height:.0f} px with another close by: fingers miss it. Give it "
            "padding, so that it measures 24 × 24 px or more, or space around it."
        )
        yield Seen("tap-target", each.number, message, Severity.WARNING, -min(width, height))


def _is_near(one: ElementFacts, other: ElementFacts) -> bool:
    """Tell whether a circle of 24 pixels around the middle of one meets another, or the circle of another small one."""
    x, y = one.x + one.width / 2, one.y + one.height / 2
    across = max(other.x - x, x - other.x - other.width, 0)
    down = max(other.y - y, y - other.y - other.height, 0)
    if across * across + down * down < (_LEAST / 2) ** 2:
        return True
    if other.target is not None and min(other.target) < _LEAST:
        apart = (x - other.x - other.width / 2) ** 2 + (y - other.y - other.height / 2) ** 2
        return apart < _LEAST**2
    return False
