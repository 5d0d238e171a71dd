"""An installed Chromium-family browser, kept from the network and the disk. Only this package drives one."""

from verse_tray.preview.browser.session import Session

__all__ = ["Session"]
