"""The browser's own process."""

from __future__ import annotations

import os
import signal
from contextlib import suppress
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from playwright.sync_api import Browser

_AT_ONCE = getattr(signal, "SIGKILL", signal.SIGTERM)  # where there is no such signal, the other ends it as well


def process_of(browser: Browser) -> int:
    """Return the number of a browser's own process."""
    protocol = browser.new_browser_cdp_session()
    running = protocol.send("SystemInfo.getProcessInfo")["processInfo"]
    protocol.detach()
    return next(int(each["id"]) for each in running if each["type"] == "browser")


def kill(process: int) -> None:
    """End a browser at once, with all its processes: one that hangs hears nothing else."""
    with suppress(ProcessLookupError):  # it has ended by itself
        if hasattr(os, "killpg") and os.getpgid(process) != os.getpgrp():
            os.killpg(os.getpgid(process), _AT_ONCE)
        else:
            os.kill(process, _AT_ONCE)
