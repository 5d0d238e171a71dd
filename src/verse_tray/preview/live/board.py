"""What the served page shows now, and word of every change to those who look at it."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Callable
from contextlib import suppress

import msgspec

from verse_tray.model.errors import VerseTrayError

_SILENCE = 10  # seconds without a word, after which a stream shows that it is alive


class Board:
    """The latest sheet, or what is wrong with it. Belongs to one event loop."""

    def __init__(self, make: Callable[[], bytes], empty: Callable[[], bytes]) -> None:
        """Take what makes the sheet, and what makes a page without views, for when the first sheet fails."""
        self._make = make
        self._empty = empty
        self._changed = asyncio.Condition()
        self.sheet = b""
        """The latest sheet that could be made."""
        self.error = ""
        """Why the newest one could not; empty when it could."""
        self.revision = 0
        """How often it was made."""
        self._closed = False

    async def make(self) -> None:
        """Make the sheet anew, away from the event loop, and tell everybody."""
        error = ""
        try:
            self.sheet = await asyncio.to_thread(self._make)
        except VerseTrayError as told:
            error = str(told)
        except OSError as told:
            error = f"{told.filename or 'a file'}: {told.strerror or told}"
        except Exception as fault:  # whatever it is, it is told on the page, and the next change is waited for
            error = f"This is a fault of verse-tray, not of your piece ({type(fault).__name__}: {fault})"[:400]
            error += ". Please report it, with the piece."
        if not self.sheet:
            self.sheet = await asyncio.to_thread(self._empty)
        await self.tell(error)

    @property
    def state(self) -> bytes:
        """Revision and error as JSON."""
        return msgspec.json.encode({"revision": self.revision, "error": self.error})

    async def tell(self, error: str) -> None:
        """Tell everybody what is wrong, and leave the sheet as it is."""
        async with self._changed:
            self.error = error
            self.revision += 1
            self._changed.notify_all()

    async def close(self) -> None:
        """End every stream of changes."""
        async with self._changed:
            self._closed = True
            self._changed.notify_all()

    async def changes(self) -> AsyncIterator[bytes]:
        """Yield the state now and after every change, until the board is closed; empty ones show that it lives."""
        seen = 0
        while not self._closed:
            told = seen
            with suppress(TimeoutError):
                async with asyncio.timeout(_SILENCE), self._changed:
                    while not self._closed and self.revision == seen:
                        await self._changed.wait()
                    told = self.revision
            if not self._closed:
                yield self.state if told != seen else b""
            seen = told
