"""What readers were meant to see, what the editor kept, and what does not show all the same."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from verse_tray.model.findings import Severity
from verse_tray.piece.view import View
from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.preview.measuring.observation import Seen

_REPLACED = frozenset("img iframe video canvas svg input button select textarea".split())


def vanished(written: PageFacts, published: PageFacts, view: View) -> Iterator[Seen]:
    """Yield elements that show something as written, still stand in the published markup, and show nothing there.

    Args:
        written: What was measured of the page with the piece as written.
        published: The same of the published one.
        view: The published piece.
    """
    there = published.shown
    for number, each in written.shown.items():
        if number not in view.by_key or not _shows(each):
            continue
        now = there.get(number)
        if now is None or not (now.width and now.height):
            message = (
                f"This <{each.name}> is kept and no longer seen: as written it shows {each.width:.0f} × "
                f"{each.height:.0f} "
                "px, published nothing. What gave it its size or its ground went. Write it into a style attribute that "
                "this editor keeps, or give it something to hold."
            )
            yield Seen("vanished", number, message, Severity.WARNING, each.width * each.height)


def hidden_at(page: PageFacts, others: Sequence[PageFacts]) -> Iterator[Seen]:
    """Yield the outermost elements that show nothing on a page and something on others, in other windows.

    Args:
        page: What was measured of a page.
        others: What was measured of the same piece in the same theme, in windows of other widths.
    """
    there, told = page.shown, set[int]()
    for number, each in {number: each for other in others for number, each in other.shown.items()}.items():
        if not _shows(each):
            continue
        now = there.get(number)
        if (now is None or not (now.width and now.height)) and not any(_holds(other, each, told) for other in others):
            told.add(number)
            message = (
                f"Readers do not see this <{each.name}> in every window: elsewhere it shows {each.width:.0f} × "
                f"{each.height:.0f} px, here nothing. If that is not meant, look for the rule that hides it."
            )
            yield Seen("hidden", number, message, Severity.NOTE, each.width * each.height)


def _holds(page: PageFacts, inner: ElementFacts, told: set[int]) -> bool:
    """Tell whether one of the elements that were told stands around another."""
    return any(
        outer.x <= inner.x + 1
        and outer.y <= inner.y + 1
        and outer.x + outer.width >= inner.x + inner.width - 1
        and outer.y + outer.height >= inner.y + inner.height - 1
        for number in told
        if (outer := page.shown.get(number)) is not None
    )


def _shows(element: ElementFacts) -> bool:
    own = element.painted or element.bordered or element.text > 0 or element.name in _REPLACED
    return own and element.width > 1 and element.height > 1
