"""What is wider than its place."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.model.findings import Severity
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_SLACK = 1.5  # pixels that rounding may cost


def check(page: PageFacts) -> Iterator[Seen]:
    """Yield the outermost elements that stick out of the column that holds the piece, or are cut off at its edge."""
    left, _, width, _ = page.piece
    edge = left + width
    told: list[tuple[float, float]] = []  # vertical stretches of those that were told: what is in them sticks out too
    if width <= 0:
        return
    for each in page.elements:
        over = each.right - edge
        before = left - each.left if each.left < 0 else 0
        if (
            not each.shown
            or not (each.width or each.text)
            or max(over, before) <= _SLACK
            or each.scrolls in ("auto", "scroll", "beside")
        ):
            continue
        shows = each.text or each.name in ("img", "iframe", "video", "canvas", "svg")
        if each.display == "inline" and not shows:
            continue  # as wide as what is in it
        if each.scrolls and not (shows or each.painted or each.bordered):
            continue  # nothing of it is cut off but what is in it
        if any(top - 1 <= each.y and each.y + each.height <= bottom + 1 for top, bottom in told):
            continue
        told.append((each.y, each.y + each.height))
        much = max(over, before)
        if each.scrolls:
            message = f"{much:.0f} px of this <{each.name}> are cut off at the edge of what it stands in."
        else:
            beyond = each.right - page.window
            aside = (
                f" and of the window by {beyond:.0f} px, so that the whole page scrolls sideways"
                if beyond > _SLACK
                else ""
            )
            message = f"This <{each.name}> sticks out of its column, {width:.0f} px wide, by {much:.0f} px{aside}."
        yield Seen("sticks-out", each.number, f"{message} {_ADVICE.get(each.name, _OTHERWISE)}", Severity.WARNING, much)


_OTHERWISE = "Give it max-width: 100% in place of a fixed width, or let long words break (overflow-wrap: anywhere)."
_ADVICE = {
    "table": 'Put it into a <div style="overflow-x: auto">, shorten its texts, or let them wrap.',
    "img": "Give it max-width: 100% and height: auto.",
    "iframe": "Give it width: 100%.",
    "pre": "Give it overflow-x: auto.",
}
