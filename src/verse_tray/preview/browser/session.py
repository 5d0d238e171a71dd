"""One browser with one tab, for as many pages as are needed."""

from __future__ import annotations

import logging
import os
import re
import shutil
import time
from collections.abc import Callable
from datetime import datetime, timedelta
from datetime import time as clock
from pathlib import Path
from threading import Timer
from types import TracebackType
from typing import TYPE_CHECKING, Any, Self, TypeVar

import msgspec
from msgspec import Struct

from verse_tray.model.errors import BrowserError
from verse_tray.preview.browser.copies import copy_in
from verse_tray.preview.browser.find import find_browser, load_driver
from verse_tray.preview.browser.flags import FLAGS
from verse_tray.preview.browser.process import kill, process_of
from verse_tray.preview.browser.rest import AT_REST, OWN, THERE
from verse_tray.preview.browser.scratch import driver_variables, scratch, variables
from verse_tray.preview.browser.stuck import CrashedError, OverdueError, StuckError
from verse_tray.preview.browser.viewport import Box, Viewport

if TYPE_CHECKING:
    from tempfile import TemporaryDirectory

    from playwright.sync_api import Browser, Frame, Page, Playwright, Request, Route

T = TypeVar("T")

ADDRESS = "http://tray.invalid/"
"""Address under which pages are shown: no browser ever finds it, so nothing but what is handed over is there."""

HEIGHT = 800
"""Height of the window in CSS pixels."""
_PATIENCE = 15_000  # milliseconds
_LONGEST = 8.0  # seconds that one call may take on a page with scripts
_LONGEST_STILL = 120.0  # seconds that one call may take on another: the largest sheets take long
_LONGEST_LOAD = 3.0  # seconds that fonts and pictures within a page may take
_LONGEST_LOOK = 5.0  # seconds after which such a page stands still

_NEVER_AT_REST = "the browser failed: the page does not come to rest, as if a script never ended"
_NEVER_THERE = "the browser failed: the page is not complete in time, as one that holds hundreds of frames"
_TIME_IS_UP = "the browser failed: time is up"

STILL = "sandbox allow-same-origin"
"""Content-Security-Policy, sent with a page, under which it runs no script and leaves for no other page."""


SIZE = f"""() => {{
  scrollTo(0, 0);
  const own = {OWN};
  return [innerWidth, Math.max(own("documentElement").scrollHeight, own("body")?.scrollHeight ?? 0, 1)];
}}"""
"""Width and height of a page in CSS pixels, as wide as the window."""


class Refusal(Struct, frozen=True):
    """Something that a page asked for and did not get."""

    kind: str
    """``page`` for another page in this window, ``window`` for one in another, else what was to be fetched."""
    address: str


class Session:
    """A browser that is ended when the block ends, whatever happens in it."""

    def __init__(self) -> None:
        self._driver: Playwright | None = None
        self._browser: Browser | None = None
        self._process = 0
        self._scratch: TemporaryDirectory[str] | None = None
        self._forget()

    def _forget(self) -> None:
        """Know of no page, as at the beginning."""
        self._tab: Page | None = None
        self._viewport: Viewport | None = None
        self._worlds: dict[bool, int] = {}
        self._crashed = False
        self._html = ""
        self._policy = ""
        self._still = False
        self._ended = False  # from outside, by a call that took too long: perhaps the one before this
        self.keeps_time = True
        """Whether the time of pages that was held could be made to pass."""
        self.scripts: Path | None = None
        """Folder with copies of the scripts and style sheets that pages ask for, found by their file names."""
        self.pictures: Callable[[str], tuple[bytes, str] | None] = lambda address: None
        """What answers a page that asks for a picture: the file and its media type."""
        self.refused: list[Refusal] = []
        """What the open page asked for and did not get."""
        self.deadline: float | None = None
        """When time is up for all that is done with it, on the clock of :func:`time.monotonic`; None for never."""

    def __enter__(self) -> Self:
        """Start the browser.

        Raises:
            BrowserError: there is none, or nothing to drive it with, or it does not start.
        """
        program = find_browser()
        load_driver()
        from playwright.sync_api import Error, sync_playwright

        logging.getLogger("playwright").setLevel(logging.CRITICAL)  # what it logs, its next call raises
        try:
            self._scratch = scratch()
            with variables(driver_variables(self._scratch.name)):
                self._driver = sync_playwright().start()
            root = hasattr(os, "geteuid") and os.geteuid() == 0  # the browser's own sandbox refuses to run as root
            self._browser = self._driver.chromium.launch(
                executable_path=program,
                args=list(FLAGS),
                chromium_sandbox=not root,
            )
            self._open_tab(self._browser)
            self._process = process_of(self._browser)
        except Error as error:
            self.__exit__(None, None, None)
            raise BrowserError(f"the browser {program} does not start: {_first_line(error)}") from None
        except BaseException:
            self.__exit__(None, None, None)
            raise
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """End the browser, whatever state it is in."""
        from playwright.sync_api import Error

        browser, driver = self._browser, self._driver
        self._browser = self._driver = self._tab = self._viewport = None
        try:
            if browser is not None and self._process and browser.is_connected():
                kill(self._process)  # nothing of it is kept, and it takes its time to take leave
                if self._scratch is not None:  # so does the driver with what the browser has left
                    shutil.rmtree(self._scratch.name, ignore_errors=True)
            if browser is not None:
                browser.close()  # whoever still waits for it hears of its end
        except Error:
            pass  # it has ended by itself
        finally:
            self._process = 0
            if driver is not None:
                driver.stop()
            if self._scratch is not None:
                self._scratch.cleanup()

    def _open_tab(self, browser: Browser) -> None:
        context = browser.new_context(
            viewport={"width": 1280, "height": HEIGHT},
            service_workers="block",
            accept_downloads=False,
            reduced_motion="reduce",
        )
        context.set_default_timeout(_PATIENCE)
        context.route("**/*", self._answer)
        self._tab = context.new_page()
        self._tab.on("crash", self._note_crash)
        self._viewport = Viewport(self._tab)

    def renew(self) -> None:
        """Begin as at the beginning, with nothing left of what was there: in this browser, or in another if it ended.

        Raises:
            BrowserError: another one does not start.
        """
        browser, context = self._browser, self.tab.context
        self.deadline = None
        try:
            self.guard(context.close, _LONGEST_LOOK)
            self._forget()
            assert browser is not None
            self.guard(lambda: self._open_tab(browser), _LONGEST)
        except BrowserError:  # it has ended, or hangs
            self.__exit__(None, None, None)
            self._forget()
            self.__enter__()

    def _note_crash(self, _: Page) -> None:
        self._crashed = True

    @property
    def tab(self) -> Page:
        """The tab."""
        assert self._tab is not None, "the session is not open"
        return self._tab

    @property
    def viewport(self) -> Viewport:
        """What the tab shows its page in."""
        assert self._viewport is not None, "the session is not open"
        return self._viewport

    def _answer(self, route: Route) -> None:
        request = route.request
        if request.url == ADDRESS and request.is_navigation_request():
            headers = {"Content-Security-Policy": self._policy} if self._policy else {}
            route.fulfill(body=self._html, content_type="text/html; charset=utf-8", headers=headers)
        elif request.is_navigation_request():
            frame = self._frame_of(request)
            ours = frame is not None and frame.page is self._tab
            self.refused.append(Refusal("page" if ours else "window", request.url))
            if frame is not None and frame.parent_frame is not None:
                route.abort()  # without an answer its page would never be complete
            else:
                route.fulfill(status=204)  # nothing comes of it, and the page stays
        elif request.resource_type == "image" and (found := self.pictures(request.url)) is not None:
            route.fulfill(body=found[0], content_type=found[1])
        elif (copy := self._copy_of(request)) is not None:
            kind = "text/css" if request.resource_type == "stylesheet" else "text/javascript"
            route.fulfill(body=copy, content_type=f"{kind}; charset=utf-8")
        else:
            self.refused.append(Refusal(request.resource_type, request.url))
            route.abort()

    def _copy_of(self, request: Request) -> bytes | None:
        """Return the author's own copy of a script or a style sheet."""
        if request.resource_type not in ("script", "stylesheet"):
            return None
        path = copy_in(self.scripts, request.url)
        try:
            return None if path is None else path.read_bytes()
        except OSError:
            return None

    def _frame_of(self, request: Request) -> Frame | None:
        from playwright.sync_api import Error

        try:
            return request.frame
        except Error:  # a window that is only being opened has no frame yet
            return None

    def open(self, html: str, width: int, *, height: int = HEIGHT, policy: str = STILL) -> None:
        """Show a page.

        Args:
            html: The document.
            width: Width of the window in CSS pixels.
            height: Height of the window in CSS pixels.
            policy: Content-Security-Policy that is sent with it.

        Raises:
            BrowserError: the browser failed.
        """
        self._html, self._policy, self.refused = html, policy, []
        self._worlds.clear()

        def load() -> str:
            """Return how far it has loaded."""
            self.viewport.resize(width, height, drawn=policy != STILL)  # where nothing runs, nothing waits for frames
            if policy == STILL and self._still:  # under the policy that is there: much sooner than another page
                if not _HOLDS_PAGES.search(html):
                    return str(self.tab.evaluate(_WRITE, html))
                # only its load event tells when those are there; what writes it is out of reach of names in a page
                self.tab.set_content(html, wait_until="load")
                return _COMPLETE
            self._still = policy == STILL
            if "allow-scripts" not in policy:
                self.tab.goto(ADDRESS, wait_until="load")
                return _COMPLETE
            # a page that leaves before it has loaded has no load event: its own state is asked for
            self.tab.goto(ADDRESS, wait_until="commit")
            return ""

        state = self.guard(load) or self._state()
        until = time.monotonic() + _PATIENCE / 1000
        while state != _COMPLETE:
            if time.monotonic() > until:
                raise StuckError(self._why_stuck())
            self.guard(lambda: self.tab.wait_for_timeout(20))
            state = self._state()

    def _state(self) -> str:
        """Return how far the page has loaded."""
        if "allow-scripts" in self._policy:
            return str(self.evaluate_apart(_READY, longest=_LONGEST_LOOK))
        return str(self.evaluate(_READY))

    def resize(self, width: int, height: int = HEIGHT) -> None:
        """Show the open page in a window of another size, in CSS pixels.

        Raises:
            BrowserError: the browser failed.
        """
        self.guard(lambda: self.viewport.resize(width, height))

    def evaluate(self, script: str, argument: Any = None) -> Any:
        """Return what a script of ours returns in the page.

        Raises:
            BrowserError: the browser failed.
        """
        return self.guard(lambda: self.tab.evaluate(script, argument))

    def evaluate_apart(
        self, script: str, argument: Any = None, *, inner: bool = False, longest: float = _LONGEST
    ) -> Any:
        """Return what a script of ours returns in a world of its own: it sees the page, and not what its scripts did.

        Args:
            script: A function of one argument.
            argument: What it is given.
            inner: Whether it runs in the first frame of the page, and not in the page itself.
            longest: Seconds that it may take.

        Raises:
            BrowserError: the browser failed.
        """

        from playwright.sync_api import Error

        def ask() -> Any:
            expression = f"({script})({msgspec.json.encode(argument).decode()})"
            asked = {"expression": expression, "contextId": self._world(inner), "returnByValue": True}
            try:
                answer = self.viewport.protocol.send("Runtime.evaluate", asked)
            except Error as error:
                if "context" not in str(error):
                    raise
                self._worlds.clear()  # the page, or the frame, is another one now
                answer = self.viewport.protocol.send("Runtime.evaluate", {**asked, "contextId": self._world(inner)})
            if "exceptionDetails" in answer:
                raise BrowserError(f"the browser failed: {answer['exceptionDetails'].get('text', 'it said nothing')}")
            return answer["result"].get("value")

        return self.guard(ask, longest)

    def hold_time(self) -> None:
        """From the next page on, time stands still for its scripts and passes when :meth:`pass_time` says so.

        It begins at noon of today, so that what is told does not depend on the second.

        Raises:
            BrowserError: the browser failed.
        """
        noon = datetime.combine(datetime.now().date(), clock(12))
        self.guard(lambda: self.tab.clock.install(time=noon))
        self.guard(lambda: self.tab.clock.pause_at(noon + timedelta(seconds=1)))

    def pass_time(self, milliseconds: int) -> None:
        """Let time pass for the scripts of the page: what waits for it happens, in its order.

        Raises:
            StuckError: a script does not come to an end.
        """
        from playwright.sync_api import Error

        def run() -> None:
            try:
                self.tab.clock.run_for(milliseconds)
            except Error as error:  # the page has left, or broke what counts its time
                self.keeps_time = False
                if self._crashed or self._ended or "closed" in str(error):
                    raise

        self.guard(run)

    def settle(self) -> None:
        """Bring the page to rest: fonts and pictures are there, what moves has ended, or is held at its first moment.

        Raises:
            BrowserError: the browser failed.
        """
        self.at_rest("() => null")

    def at_rest(self, script: str) -> Any:
        """Bring the page to rest, and return what a script of ours returns then.

        Raises:
            BrowserError: the browser failed.
        """
        asked = f"late => {{ if (!late && !({THERE})()) return null; ({AT_REST})(); return [({script})()]; }}"
        until = time.monotonic() + _LONGEST_LOAD
        while (found := self.evaluate(asked, time.monotonic() >= until)) is None:
            self.guard(lambda: self.tab.wait_for_timeout(20))
        return found[0]

    def _world(self, inner: bool) -> int:
        """Return the number of a world of ours in the page, or in its first frame."""
        if inner not in self._worlds:
            tree = self.viewport.protocol.send("Page.getFrameTree")["frameTree"]
            frame = (tree["childFrames"][0] if inner and tree.get("childFrames") else tree)["frame"]["id"]
            asked = {"frameId": frame, "worldName": "verse-tray"}
            world = self.viewport.protocol.send("Page.createIsolatedWorld", asked)
            self._worlds[inner] = world["executionContextId"]
        return self._worlds[inner]

    def picture(self, box: Box | None = None) -> bytes:
        """Return a PNG of the page, as wide as the window and as tall as the page, or of a part of it.

        Raises:
            BrowserError: the browser failed.
        """
        if box is None:
            width, height = self.evaluate(SIZE)
            box = Box(0, 0, width, height)
        self.settle()
        return self.guard(lambda: self.viewport.capture(box))

    def pixels(self, box: Box) -> bytes:
        """Return a PNG of a part of a page that has come to rest, made for being looked at at once: it is less packed.

        Raises:
            BrowserError: the browser failed.
        """
        return self.guard(lambda: self.viewport.capture(box, quick=True))

    def cut_out(self, box: Box, scale: int) -> bytes:
        """Return a PNG of a part of the page, with nothing behind what stands there, that many times as large.

        Raises:
            BrowserError: the browser failed.
        """
        return self.guard(lambda: self.viewport.capture_alone(box, scale))

    def guard(self, action: Callable[[], T], longest: float | None = None) -> T:
        """Do something with the tab; tell in one sentence when the browser fails or takes more than so many seconds."""
        from playwright.sync_api import Error, TimeoutError

        # most calls wait for ever when a script of the page never ends, or the browser hangs: it is ended from outside
        longest = longest or (_LONGEST if "allow-scripts" in self._policy else _LONGEST_STILL)
        left = longest if self.deadline is None else min(longest, self.deadline - time.monotonic())
        if left <= 0:
            raise OverdueError(_TIME_IS_UP)
        watch = Timer(left, self._end) if self._process else None
        if watch is not None:
            watch.daemon = True
            watch.start()
        try:
            return action()
        except Error as error:
            if self.deadline is not None and time.monotonic() >= self.deadline:
                raise OverdueError(_TIME_IS_UP) from None
            if self._crashed or "crashed" in str(error).lower():
                raise CrashedError("the browser failed: the page broke down, as if it needed too much memory") from None
            if isinstance(error, TimeoutError) or self._ended:
                raise StuckError(self._why_stuck()) from None
            raise BrowserError(f"the browser failed: {_first_line(error)}") from None
        finally:
            if watch is not None:
                watch.cancel()

    def _why_stuck(self) -> str:
        return _NEVER_AT_REST if "allow-scripts" in self._policy else _NEVER_THERE

    def _end(self) -> None:
        self._ended = True
        kill(self._process)


def _first_line(error: Exception) -> str:
    return next(iter(str(error).strip().splitlines()), "it said nothing")


_HOLDS_PAGES = re.compile(r"<(?:i?frame|object|embed)\b", re.IGNORECASE)
_READY = f"() => ({OWN})('readyState')"
_WRITE = f"""html => {{
  const {{open, write, close}} = Document.prototype;
  open.call(document);
  write.call(document, html);
  close.call(document);
  return ({_READY})();
}}"""
_COMPLETE = "complete"
