"""Looking at a journey in a browser: what a person would notice of the published page, and how alike it looks."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import Executor, ThreadPoolExecutor
from functools import partial

from msgspec import Struct

from verse_tray.journeys.highlights import text_runs
from verse_tray.journeys.journey import Journey
from verse_tray.model.findings import Finding
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.findings import findings_of
from verse_tray.preview.measuring.fonts import substituted
from verse_tray.preview.measuring.likeness import Likeness, Sight, likeness, unchanged
from verse_tray.preview.measuring.observation import Seen
from verse_tray.preview.measuring.rules import RULES
from verse_tray.preview.measuring.show import OpenPage
from verse_tray.preview.measuring.vanished import hidden_at, vanished
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Page, journey_page
from verse_tray.preview.pages.window import Window


class Rendered(Struct, frozen=True):
    """What was seen of a journey in a browser."""

    findings: dict[Finding, int]
    """What a person would notice, the gravest first, with the numbers of the elements."""
    likeness: dict[Window, Likeness]
    """How alike the published page and the written one look, by window; empty where that was not asked."""

    @property
    def score(self) -> float | None:
        """How alike they look in the middle of all windows, from 0 to 1; None where that was not asked."""
        if not self.likeness:
            return None
        return sum(each.score for each in self.likeness.values()) / len(self.likeness)


def render(
    session: Session,
    journey: Journey,
    themes: Mapping[str, str],
    widths: Sequence[int],
    pictures: LocalPictures,
    *,
    compare: bool,
) -> Rendered:
    """Look at a journey.

    Args:
        session: The browser.
        journey: The journey.
        themes: Themes to look at it with: CSS by name.
        widths: Widths of the windows in CSS pixels.
        pictures: Where the piece's own pictures are.
        compare: Whether to look at the written piece too and to say how alike the published one looks.

    Raises:
        BrowserError: the browser failed.
    """
    with ThreadPoolExecutor(1) as pool:
        return observe(session, journey, themes, widths, pictures, pool if compare else None)()


def observe(
    session: Session,
    journey: Journey,
    themes: Mapping[str, str],
    widths: Sequence[int],
    pictures: LocalPictures,
    pool: Executor | None,
) -> Callable[[], Rendered]:
    """Look at a journey as :func:`render` does, and return what waits until the pictures are compared.

    The browser can show other pages meanwhile. The arguments are those of :func:`render`, but for ``pool``, which
    compares the published page with the written one; None for not looking at that.

    Raises:
        BrowserError: the browser failed.
    """
    windows = [Window(width, theme) for theme in themes for width in widths]
    if journey.refused:
        nothing = {window: Likeness(0.0, {}) for window in windows} if pool else {}
        return lambda: Rendered({}, nothing)
    seen: list[tuple[Window, Seen]] = []
    alike: dict[Window, Callable[[], Likeness]] = {}
    measured: dict[Window, PageFacts] = {}
    for theme, css in themes.items():
        page = journey_page(journey, "published", css, pictures)
        written = journey_page(journey, "written", css, pictures) if pool else page
        shown, after = OpenPage(session, page), {}
        for window in (Window(width, theme) for width in widths):
            measured[window] = facts = shown.look(window.width)
            seen += [(window, each) for rule in RULES for each in rule(facts)]
            if window == windows[0]:  # no theme changes what fonts this machine has
                missing = list(substituted(session, facts, journey.published_view))
                seen += [(every, each) for each in missing for every in windows]
            if written != page:
                after[window] = Sight(facts, *shown.pixels(facts), text_runs(journey.published))
            elif pool:
                alike[window] = partial(unchanged, facts)
        if pool and after:
            for window, before in _before(session, written, after, journey):
                seen += [(window, each) for each in vanished(before.facts, after[window].facts, journey.published_view)]
                alike[window] = pool.submit(likeness, before, after[window]).result
    for window, facts in measured.items():
        others = [measured[each] for each in windows if each.theme == window.theme and each.width != window.width]
        seen += [(window, each) for each in hidden_at(facts, others)]
    stage = "written" if journey.published is journey.piece.parsed.tree else "publish"
    found = findings_of(journey.piece, seen, windows, stage)
    return lambda: Rendered(found, {window: alike[window]() for window in windows if window in alike})


def _before(
    session: Session, written: Page, after: dict[Window, Sight], journey: Journey
) -> Iterator[tuple[Window, Sight]]:
    """Yield how the written page looks in each window; the last comes first, as the tab has its size already."""
    shown, runs = OpenPage(session, written), text_runs(journey.piece.parsed.tree)
    for window in reversed(after):
        facts = shown.look(window.width)
        yield window, Sight(facts, *shown.pixels(facts), runs)
