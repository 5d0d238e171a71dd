"""What a browser says while a piece is tried out: errors, refusals, dialogs, windows."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct

from verse_tray.model.patterns import lazy
from verse_tray.preview.browser.session import Refusal, Session

if TYPE_CHECKING:
    from playwright.sync_api import ConsoleMessage, Dialog, Error

_TOKEN = lazy(r"'?(allow-[a-z-]+)'?")
_ADDRESS = lazy(r"((?:https?|wss?|ftp|file|blob):[^'\"\s<>]*[^'\"\s<>.])")


_IDLE = ("Blocked script execution in 'about:", "Unrecognized Content-Security", "An iframe which has both allow-")
"""Beginnings of what is about this page, and not about the piece in it."""


_MOST_SAID = 5_000


class Said(Struct, frozen=True):
    """One thing that a browser said."""

    kind: str
    """``error`` of a script, ``refused``, ``dialog``, ``fetch``, ``window``, ``page``."""
    words: str
    """What it is about: the error, the missing permission, the address."""
    where: str = ""
    """The browser's words on where it happened."""


class Notes:
    """Listens to a session's tab."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._said: list[Said] = []
        self._asked = 0
        tab = session.tab
        tab.on("pageerror", self._error)
        tab.on("console", self._console)
        tab.on("dialog", self._dialog)

    def since(self, mark: int) -> list[Said]:
        """Return what was said since a mark."""
        self._collect()
        return list(dict.fromkeys(self._said[mark:]))

    @property
    def mark(self) -> int:
        """Where the notes are now."""
        self._collect()
        return len(self._said)

    def begin(self) -> None:
        """Begin anew, with another page."""
        self._asked = 0

    def _collect(self) -> None:
        refused = self._session.refused
        for each in refused[self._asked :]:
            self._say(_of(each))
        self._asked = len(refused)

    def _say(self, said: Said) -> None:
        if len(self._said) < _MOST_SAID:  # who says more says the same again and again
            self._said.append(said)

    def _error(self, error: Error) -> None:
        name = getattr(error, "name", "") or "Error"
        self._say(Said("error", f"{name}: {error.message}".strip().rstrip("."), error.stack or ""))

    def _console(self, message: ConsoleMessage) -> None:
        text = message.text
        location = message.location
        where = f"{location.get('url', '')}:{location.get('lineNumber', -1) + 1}:{location.get('columnNumber', -1) + 1}"
        if message.type not in ("error", "warning"):
            return
        if "Content Security Policy" in text or "Content-Security-Policy" in text:
            address = _ADDRESS.search(text)
            kind = "page" if text.startswith("Framing") else "fetch"
            self._say(Said(kind, address[1] if address else "what the page may not fetch"))
        elif text.startswith(_IDLE):
            return
        elif "new window" in text and "allow-popups" in text:
            self._say(Said("window", address[1] if (address := _ADDRESS.search(text)) else "an empty page"))
        elif "sandbox" in text and (token := _TOKEN.search(text)):
            if token[1] != "allow-scripts":  # told before the trial, and the page is looked at without scripts as well
                self._say(Said("refused", token[1], where))
        elif text.startswith("Failed to load resource"):
            return  # the request itself was counted
        else:
            self._say(Said("told", text.splitlines()[0][:200] if text else "", where))

    def _dialog(self, dialog: Dialog) -> None:
        self._say(Said("dialog", dialog.message[:200]))
        dialog.dismiss()


def _of(refusal: Refusal) -> Said:
    if refusal.kind in ("page", "window"):
        return Said(refusal.kind, refusal.address)
    return Said("fetch", refusal.address)
