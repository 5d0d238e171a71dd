"""A picture of a sheet, taken by an installed Chromium-family browser that can reach neither network nor disk."""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

from verse_tray.model.errors import BrowserError

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
_ADDRESS = "http://sheet.invalid/"
_FLAGS = (
    "--host-resolver-rules=MAP * ~NOTFOUND",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--disable-features=IsolateSandboxedIframes",  # a process of its own would escape the route, and lay out later
    "--hide-scrollbars",
)
_TALLEST_PICTURE = 16_000  # pixels; the browser's own limit lies a little above
_TALLEST_VIEW = 2600  # CSS pixels; a longer page is shown from its top


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
        "no Chromium-family browser was found for the picture. Install one (on Debian: apt install chromium), or set "
        f"{VARIABLE} to its program. The HTML preview needs none: use -o."
    )


def picture(sheet: str, width: int = 1280) -> bytes:
    """Return a PNG of a sheet, as tall as the sheet is.

    Args:
        sheet: The sheet's HTML.
        width: Width of the window, in CSS pixels.

    Raises:
        BrowserError: no browser, or no ``playwright`` to drive it, or it failed.
    """
    program = find_browser()
    try:
        from playwright.sync_api import Error, Route, sync_playwright
    except ImportError:
        raise BrowserError(
            "a picture needs the package playwright to drive the browser. "
            "Install it with: pip install 'verse-tray[browser]'"
        ) from None

    def answer(route: Route) -> None:
        if route.request.url == _ADDRESS and route.request.is_navigation_request():
            route.fulfill(body=sheet, content_type="text/html; charset=utf-8")
        else:
            route.abort()

    try:
        with sync_playwright() as driver:
            root = hasattr(os, "geteuid") and os.geteuid() == 0  # the browser's own sandbox refuses to run as root
            browser = driver.chromium.launch(executable_path=program, args=[*_FLAGS], chromium_sandbox=not root)
            try:
                context = browser.new_context(viewport={"width": width, "height": 800}, service_workers="block")
                context.route("**/*", answer)
                tab = context.new_page()
                tab.goto(_ADDRESS, wait_until="load")
                for element in tab.query_selector_all(".view iframe"):
                    element.evaluate(_FIT, 100)  # a page is never lower than its window: measure it in a low one
                    inner = element.content_frame()
                    if inner:
                        inner.wait_for_load_state("load")
                    tall = inner.evaluate("document.documentElement.scrollHeight") if inner else 100
                    element.evaluate(_FIT, min(int(tall), _TALLEST_VIEW))
                sheet_height = int(tab.evaluate("document.documentElement.scrollHeight"))
                # what lies outside the window is not painted in time for the picture
                tab.set_viewport_size({"width": width, "height": min(sheet_height, _TALLEST_PICTURE)})
                tab.evaluate(_PAINTED)
                return tab.screenshot(full_page=True, animations="disabled", caret="hide")
            finally:
                browser.close()
    except Error as error:
        first = str(error).strip().splitlines()[0]
        raise BrowserError(f"the browser {program} failed: {first}") from None


# Give a view the height of its page: scale and rounding as the sheet's own styles have them.
_FIT = """(frame, tall) => {
  const scale = frame.getBoundingClientRect().width / frame.offsetWidth;
  frame.style.height = tall + 'px';
  frame.parentElement.style.height = Math.ceil(tall * scale) + 'px';
}"""

_PAINTED = """async () => {
  await document.fonts.ready;
  for (let i = 0; i < 3; i++) await new Promise(requestAnimationFrame);
}"""
