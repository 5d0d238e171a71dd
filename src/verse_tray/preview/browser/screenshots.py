"""Pictures and PDFs of sheets and of single views."""

from __future__ import annotations

import re

from verse_tray.preview.browser.rest import OWN
from verse_tray.preview.browser.session import Session
from verse_tray.preview.browser.viewport import TALLEST, Box

_PART = """() => {
  const all = (page, selector) => [...Document.prototype.querySelectorAll.call(page, selector)];
  for (const frame of [null, ...all(document, 'iframe')]) {
    const page = frame ? frame.contentDocument : document;
    const piece = page && all(page, '[data-tray="0"]').find(each => each.getClientRects().length);
    if (!piece) continue;
    const box = (frame || piece).getBoundingClientRect();
    return [box.x + scrollX, box.y + scrollY, box.width, box.height];
  }
  return null;
}"""
_DRAWN = """async () => {
  await window.drawAll();
  await document.fonts.ready;
  for (let i = 0; i < 3; i++) await new Promise(requestAnimationFrame);
  return document.documentElement.scrollHeight;
}"""
_HEIGHT = f"() => ({OWN})('documentElement').scrollHeight"
_DATE = re.compile(rb"/(CreationDate|ModDate) \(D:[^)]*\)")


def sheet_picture(session: Session, sheet: bytes, width: int = 1280) -> bytes:
    """Return a PNG of a whole sheet."""
    height = _open_sheet(session, sheet, width)
    # what lies outside the window is not painted in time for the picture
    session.resize(width, min(height, TALLEST))
    session.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
    return session.picture()


def sheet_pdf(session: Session, sheet: bytes, width: int = 1280) -> bytes:
    """Return a PDF of a whole sheet, on paper of its own format."""
    _open_sheet(session, sheet, width)
    made = session.guard(lambda: session.tab.pdf(prefer_css_page_size=True, print_background=True, scale=0.75))
    return _undated(made)


def view_picture(session: Session, page: str, width: int, part: str = "page") -> bytes:
    """Return a PNG of one view.

    Args:
        session: The browser.
        page: The page.
        width: Width of the window in CSS pixels.
        part: ``page`` for all of it, ``window`` for what is seen without scrolling, ``piece`` for the piece alone.
    """
    session.open(page, width)
    if part == "window":
        return session.picture(Box(0, 0, *session.viewport.size))
    found = session.evaluate(_PART) if part == "piece" else None
    return session.picture(Box(*found) if found else None)


def view_pdf(session: Session, page: str, width: int) -> bytes:
    """Return a PDF of one view: a single sheet of paper as large as the page."""
    session.open(page, width)
    session.guard(lambda: session.tab.emulate_media(media="screen"))
    height = session.evaluate(_HEIGHT)
    made = session.guard(
        lambda: session.tab.pdf(width=f"{width}px", height=f"{height + 1}px", print_background=True, page_ranges="1")
    )
    session.guard(lambda: session.tab.emulate_media(media="null"))
    return _undated(made)


def _open_sheet(session: Session, sheet: bytes, width: int) -> int:
    session.open(sheet.decode("utf-8"), width, policy="")
    return int(session.evaluate(_DRAWN))


def _undated(pdf: bytes) -> bytes:
    """Return a PDF without the time at which it was made, so that the same page gives the same file."""
    return _DATE.sub(lambda match: b"/" + match[1] + b" (D:" + b"0" * (len(match[0]) - len(match[1]) - 6) + b")", pdf)
