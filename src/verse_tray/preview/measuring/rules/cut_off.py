"""Text that its box cuts off, or that runs over what follows: a height or a width that was fixed."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_SLACK = 3.0  # pixels that letters may reach beyond their line


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield the outermost boxes whose text is cut off, or stands on what comes next."""
    told: list[tuple[float, float]] = []  # vertical stretches of those that were told
    for each in page.elements:
        if not each.shown or each.beyond is None:
            continue
        if any(top - 1 <= each.y and each.y + each.height <= bottom + 1 for top, bottom in told):
            continue
        across, down = each.beyond
        box = f"this <{each.name}>, {each.width:.0f} × {each.height:.0f} px,"
        if each.cuts:
            much = max(across, down)
            side = "at the right" if across > down else "below"
            message = f"{much:.0f} px of the text in {box} are cut off {side}. "
            advice = "Let it wrap, or the box grow" if across > down else "Write min-height in place of height"
        else:
            much = down
            message = f"The text in {box} runs {much:.0f} px over what follows. "
            advice = "Write min-height in place of height"
        if much > _SLACK:
            told.append((each.y, each.y + each.height))
            yield Seen("cut-off", each.number, f"{message}{advice}.", Severity.WARNING, much)
