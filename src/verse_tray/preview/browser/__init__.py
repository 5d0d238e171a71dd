"""An installed Chromium-family browser, kept from the network and the disk. Only this package drives one."""

from verse_tray.preview.browser.session import Session
from verse_tray.preview.browser.steady import SteadySession

__all__ = ["Session", "SteadySession"]
