"""Fonts that the piece asks for and that the browser of this machine has not."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from verse_tray.model.findings import Severity
from verse_tray.piece.view import View
from verse_tray.preview.browser import Session
from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen

_GENERIC = frozenset(
    "serif sans-serif monospace cursive fantasy system-ui ui-serif ui-sans-serif ui-monospace ui-rounded math emoji "
    "fangsong -apple-system blinkmacsystemfont inherit initial unset revert".split()
)
_MOST = 20  # different lists of fonts
_FIND = "number => Document.prototype.querySelector.call(document, `[data-tray='${number}']`)"


def substituted(session: Session, page: PageFacts, view: View) -> Iterator[Seen]:
    """Yield an element for each font that a piece's own styles put first and that another stands in for.

    Args:
        session: The browser, the page open in it.
        page: What was measured of it.
        view: The piece as it stands there.
    """
    told: dict[str, int] = {}
    for each in page.elements:
        winners = view.cascade.winners.get(each.number, {})
        element = view.by_key.get(each.number)
        asks = "font-family" in winners or "font" in winners or (element is not None and "face" in element.attributes)
        first = each.family.split(",")[0].strip().strip("\"'")
        if asks and each.shown and first and first.lower() not in _GENERIC and len(told) < _MOST:
            told.setdefault(first, each.number)
    for first, number in told.items():
        used = _platform_fonts(session, number)
        if used and first.lower() not in {name.lower() for name in used}:
            yield Seen(
                "font-missing",
                number,
                f"The font {first} is not on this machine, {' and '.join(used)} stands in for it: readers without "
                "it see other letters of another width too. Name fonts behind it that are meant to stand in.",
                Severity.NOTE,
            )


def _platform_fonts(session: Session, number: int) -> list[str]:
    def ask() -> list[str]:
        protocol = session.tab.context.new_cdp_session(session.tab)
        try:
            for domain in ("DOM", "CSS"):
                protocol.send(f"{domain}.enable")
            found: Any = protocol.send("Runtime.evaluate", {"expression": f"({_FIND})({number})"})["result"]
            if "objectId" not in found:
                return []  # in a frame of its own
            protocol.send("DOM.getDocument")
            node = protocol.send("DOM.requestNode", {"objectId": found["objectId"]})["nodeId"]
            fonts = protocol.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"]
            return sorted({str(font["familyName"]) for font in fonts})
        finally:
            protocol.detach()

    return session.guard(ask)
