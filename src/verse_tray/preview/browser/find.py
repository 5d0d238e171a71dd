"""Where the browser is."""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

from verse_tray.model.errors import BrowserError, not_installed

VARIABLE = "VERSE_TRAY_BROWSER"
"""Environment variable that names the browser's program."""

_NAMES = ("chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome", "msedge", "microsoft-edge")
_USUAL = {
    "darwin": (
        "/Applications/Chromium.app/Contents/MacOS/Chromium",
        "/Applications/Google Chrome.app/Contents/MacOS/Google Chrome",
        "/Applications/Microsoft Edge.app/Contents/MacOS/Microsoft Edge",
    ),
    "win32": (
        r"C:\Program Files\Google\Chrome\Application\chrome.exe",
        r"C:\Program Files (x86)\Microsoft\Edge\Application\msedge.exe",
    ),
    "linux": ("/usr/bin/chromium", "/snap/bin/chromium", "/usr/lib/chromium/chromium"),
}


def load_driver() -> None:
    """Load what drives a browser.

    Raises:
        BrowserError: the package is not there.
    """
    try:
        import playwright.sync_api  # noqa: F401
    except ImportError as error:
        raise BrowserError(not_installed("driving a browser", error, "browser")) from None


def find_browser() -> Path:
    """Return the browser's program: from the environment, then from PATH, then from the system's usual places.

    Raises:
        BrowserError: there is none.
    """
    named = os.environ.get(VARIABLE)
    if named:
        if not Path(named).is_file():
            raise BrowserError(
                f"{VARIABLE} names {named}, which is not a file. Set it to a Chromium-family browser's program."
            )
        return Path(named)
    for name in _NAMES:
        found = shutil.which(name)
        if found:
            return Path(found)
    for place in _USUAL.get(sys.platform, ()):
        if Path(place).is_file():
            return Path(place)
    raise BrowserError(
        "no Chromium-family browser was found, and this needs one. Install one (on Debian: apt install chromium), "
        "or set "
        f"{VARIABLE} to its program. The HTML sheet (-o) and the preview in the terminal (--text) need none."
    )
