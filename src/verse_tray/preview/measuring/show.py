"""Showing one side of a journey in the browser, and measuring it."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from verse_tray.journeys.journey import Journey
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.facts import PageFacts, page_facts
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side, journey_page


def look(session: Session, journey: Journey, side: Side, theme: str, width: int, pictures: LocalPictures) -> PageFacts:
    """Show one side of a journey in the browser, leave it open there, and return what was measured of it."""
    session.open(journey_page(journey, side, theme, pictures).html, width)
    session.settle()
    return page_facts(session.evaluate(_measure()))


@cache
def _measure() -> str:
    return (Path(__file__).parent / "measure.js").read_text("utf-8")
