"""A browser that is started anew, once, when it dies or hangs."""

from __future__ import annotations

from collections.abc import Callable
from types import TracebackType
from typing import Self, TypeVar

from verse_tray.model.errors import BrowserError
from verse_tray.preview.browser.session import Session

T = TypeVar("T")


class SteadySession:
    """A session for several pieces of work, each of which is tried once more in another browser if its own fails."""

    def __init__(self) -> None:
        self._session = Session()

    def __enter__(self) -> Self:
        """Start the browser.

        Raises:
            BrowserError: there is none, or nothing to drive it with, or it does not start.
        """
        self._session.__enter__()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """End the browser."""
        self._session.__exit__(kind, error, trace)

    def do(self, work: Callable[[Session], T]) -> T:
        """Return what a piece of work returns; it begins anew in another browser when the first one fails.

        Raises:
            BrowserError: that one failed as well.
        """
        try:
            return work(self._session)
        except BrowserError:
            self._session.__exit__(None, None, None)
            self._session = Session()
            self._session.__enter__()
            return work(self._session)
