"""Looking at a journey in a browser: what a person would notice of the published page, and how alike it looks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from concurrent.futures import Future, ThreadPoolExecutor

from msgspec import Struct

from verse_tray.journeys.highlights import text_runs
from verse_tray.journeys.journey import Journey
from verse_tray.model.findings import Finding
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.findings import findings_of
from verse_tray.preview.measuring.likeness import Likeness, Sight, likeness
from verse_tray.preview.measuring.observation import Seen
from verse_tray.preview.measuring.rules import RULES
from verse_tray.preview.measuring.show import look
from verse_tray.preview.measuring.vanished import hidden_at, vanished
from verse_tray.preview.pages.local_pictures import LocalPictures
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
    windows = [Window(width, theme) for theme in themes for width in widths]
    if journey.refused:
        return Rendered({}, {window: Likeness(0.0, {}) for window in windows} if compare else {})
    seen: list[tuple[Window, Seen]] = []
    waiting: dict[Window, Future[Likeness]] = {}
    stage = "written" if journey.published is journey.piece.parsed.tree else "publish"
    measured: dict[Window, PageFacts] = {}
    with ThreadPoolExecutor(1) as pool:  # the browser draws the next page meanwhile
        for window in windows:
            facts = look(session, journey, "published", themes[window.theme], window.width, pictures)
            measured[window] = facts
            seen += [(window, each) for rule in RULES for each in rule(facts)]
            if window is windows[0]:
                from verse_tray.preview.measuring.fonts import substituted

                missing = list(substituted(session, facts, journey.published_view))
                seen += [(each_window, each) for each in missing for each_window in windows]  # no theme changes that
            if compare:
                after = Sight(facts, session.pixels(), text_runs(journey.published))
                written = look(session, journey, "written", themes[window.theme], window.width, pictures)
                seen += [(window, each) for each in vanished(written, facts, journey.published_view)]
                before = Sight(written, session.pixels(), text_runs(journey.piece.parsed.tree))
                waiting[window] = pool.submit(likeness, before, after)
    for window, facts in measured.items():
        others = [measured[each] for each in windows if each.theme == window.theme and each.width != window.width]
        seen += [(window, each) for each in hidden_at(facts, others)]
    alike = {window: each.result() for window, each in waiting.items()}
    return Rendered(findings_of(journey.piece, seen, windows, stage), alike)
