"""Drawings (SVG) that move by style rules, held: a page cannot reach into a picture to hold what moves there."""

from __future__ import annotations

import base64
import re
from urllib.parse import quote, unquote_to_bytes

from verse_tray.model.patterns import lazy

_DRAWING = lazy(r"data:image/svg\+xml[^,]*,", re.IGNORECASE)
_END = re.compile(rb"</(?:[\w.-]+:)?svg\s*>")
# a week has passed: what ends has ended, and what never does is, as nearly always, at the beginning of a round
_HELD = (
    b'<style xmlns="http://www.w3.org/2000/svg">*, ::before, ::after { animation-delay: -604800s !important; '
    b"animation-play-state: paused !important }</style>"
)


def held(drawing: bytes) -> bytes:
    """Return a drawing in which nothing moves by style rules; the same bytes if nothing does."""
    ends = list(_END.finditer(drawing)) if b"animation" in drawing else []
    return drawing[: ends[-1].start()] + _HELD + drawing[ends[-1].start() :] if ends else drawing


def held_address(address: str) -> str | None:
    """Return a ``data:`` address (RFC 2397) with its drawing held; None for any other, and where nothing moves."""
    head = _DRAWING.match(address)
    if head is None:
        return None
    body, mark, fragment = address[head.end() :].partition("#")
    data = unquote_to_bytes(body)
    if head[0][:-1].lower().endswith(";base64"):
        try:
            data = base64.b64decode(data + b"===")
        except ValueError:  # the browser shows nothing either
            return None
    still = held(data)
    if still is data:
        return None
    # it is put between quotes: what the author wrote around the drawing must not end them
    return f"data:image/svg+xml;base64,{base64.b64encode(still).decode('ascii')}{mark}{quote(fragment, safe='=&,;/?%')}"
