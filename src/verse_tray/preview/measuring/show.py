"""Showing a page in the browser, and measuring it."""

from __future__ import annotations

import re
from functools import cache
from math import ceil, floor
from pathlib import Path

from verse_tray.journeys.journey import Journey
from verse_tray.preview.browser import Session
from verse_tray.preview.browser.session import SIZE
from verse_tray.preview.browser.viewport import Box
from verse_tray.preview.measuring.facts import PageFacts, page_facts
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Page, Side, journey_page

_CHOOSES_ONCE = re.compile(r"srcset|<source|loading\s*=", re.IGNORECASE)
"""What may stay as it was in the first window: pictures that were chosen for it, or left for later."""
_AROUND = 3
"""Pixels around the piece that are taken with it: more than likeness looks at for the colour in which it stands."""


class OpenPage:
    """A page in the browser, in windows of one width after the other."""

    def __init__(self, session: Session, page: Page) -> None:
        """Take a page; it is opened when it is first looked at."""
        self._session = session
        self._page = page
        self._open = ""
        self._size = 1.0, 1.0
        self._resizes = not any(map(_CHOOSES_ONCE.search, (page.frame, page.piece)))

    def look(self, width: int) -> PageFacts:
        """Show it in a window, leave it open there, and return what was measured of it.

        Raises:
            BrowserError: the browser failed.
        """
        html = self._page.in_window(width).html
        if self._open == html and self._resizes:
            self._session.resize(width)
        else:
            self._session.open(html, width)
        self._open = html
        measured, self._size = self._session.at_rest(f"() => [({_measure()})(), ({SIZE})()]")
        return page_facts(measured)

    def pixels(self, facts: PageFacts) -> tuple[bytes, tuple[int, int]]:
        """Return a picture of the piece in the window in which it was looked at last, and where on the page it begins.

        Args:
            facts: What was measured then.

        Raises:
            BrowserError: the browser failed.
        """
        left, top, right, bottom = facts.extent
        x, y = max(0, floor(left) - _AROUND), max(0, floor(top) - _AROUND)
        end, behind = min(self._size[0], ceil(right) + _AROUND), min(self._size[1], ceil(bottom) + _AROUND)
        return self._session.pixels(Box(x, y, end - x, behind - y)), (x, y)


def look(session: Session, journey: Journey, side: Side, theme: str, width: int, pictures: LocalPictures) -> PageFacts:
    """Show one side of a journey in the browser, leave it open there, and return what was measured of it."""
    return OpenPage(session, journey_page(journey, side, theme, pictures)).look(width)


@cache
def _measure() -> str:
    return (Path(__file__).parent / "measure.js").read_text("utf-8")
