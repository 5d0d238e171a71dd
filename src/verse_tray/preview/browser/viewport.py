"""The part of a window that a page is shown in: its size, and pictures of the page."""

from __future__ import annotations

import base64
from contextlib import suppress
from typing import TYPE_CHECKING, Any

from msgspec import Struct

if TYPE_CHECKING:
    from playwright.sync_api import Page

TALLEST = 16_000
"""Pixels of a picture; the browser's own limit lies a little above."""
_LEAST = 8  # pixels of a side that are drawn anyway


class Box(Struct, frozen=True):
    """A part of a page, in CSS pixels from its top left corner."""

    x: float
    y: float
    width: float
    height: float


class Viewport:
    """What a tab shows its page in.

    It is asked by the browser's own protocol: what drives the browser waits for frames that nobody needs.
    """

    def __init__(self, tab: Page) -> None:
        """Take a tab that has the size that it was opened with."""
        self.protocol = tab.context.new_cdp_session(tab)
        """What passes the words of the browser's protocol on to the tab."""
        viewport = tab.viewport_size
        assert viewport is not None
        self.size = viewport["width"], viewport["height"]
        """Width and height in CSS pixels."""
        self._drawn = True

    def resize(self, width: int, height: int, *, drawn: bool | None = None) -> None:
        """Give it another size.

        Args:
            width: Width in CSS pixels.
            height: Height in CSS pixels.
            drawn: Whether the browser draws all of it whenever something changes; nobody sees what it draws between
                the pictures, and it takes its time. None for leaving that as it is. What a page is laid out in, and
                what pictures show, is the same.
        """
        drawn = self._drawn if drawn is None else drawn
        if (width, height, drawn) == (*self.size, self._drawn):
            return
        size = {"width": width, "height": height, "screenWidth": width, "screenHeight": height}
        orientation = {"angle": 0, "type": "landscapePrimary"}
        self.protocol.send(
            "Emulation.setDeviceMetricsOverride",
            {
                **size,
                "deviceScaleFactor": 1,
                "mobile": False,
                "screenOrientation": orientation,
                "dontSetVisibleSize": not drawn,
            },
        )
        if self._drawn and not drawn:
            from playwright.sync_api import Error

            with suppress(Error):  # a browser that knows no such thing draws all of it
                self.protocol.send("Emulation.setVisibleSize", {"width": _LEAST, "height": _LEAST})
        self.size, self._drawn = (width, height), drawn

    def capture(self, box: Box, *, scale: float = 1, quick: bool = False) -> bytes:
        """Return a PNG of a part of the page.

        Args:
            box: The part.
            scale: How many times as large the picture is.
            quick: Whether it is looked at at once, and need not be packed well.
        """
        width, height = max(1, box.width), max(1, min(box.height, TALLEST))
        beyond = box.x < 0 or box.y < 0 or box.x + width > self.size[0] or box.y + height > self.size[1]
        clip = {"x": box.x, "y": box.y, "width": width, "height": height, "scale": scale}
        asked: dict[str, Any] = {"format": "png", "clip": clip, "captureBeyondViewport": beyond}
        data: str = self.protocol.send("Page.captureScreenshot", {**asked, "optimizeForSpeed": quick})["data"]
        return base64.b64decode(data)

    def capture_alone(self, box: Box, scale: float) -> bytes:
        """Return a PNG of a part of the page with nothing behind what stands there, see :meth:`capture`."""
        self.protocol.send("Emulation.setDefaultBackgroundColorOverride", {"color": dict.fromkeys("rgba", 0)})
        picture = self.capture(box, scale=scale)
        self.protocol.send("Emulation.setDefaultBackgroundColorOverride")
        return picture
