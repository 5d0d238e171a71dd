"""Serving a board, and making it anew when a file changes."""

from __future__ import annotations

import asyncio
import mimetypes
import socket
from collections.abc import Callable
from pathlib import Path

import uvicorn
from watchfiles import Change, awatch

from verse_tray.preview.live.application import application
from verse_tray.preview.live.board import Board
from verse_tray.serving.own_machine import listen

_QUIET = 10  # milliseconds without another change, after which the sheet is made anew
_LONGEST = 60  # milliseconds of changes that are taken together


_AGAIN = 2  # seconds after which files that could not be watched are watched again


class Watched:
    """The files that a sheet is made of."""

    def __init__(self, files: tuple[Path, ...], folders: tuple[Path, ...], pictures: tuple[Path, ...]) -> None:
        """Name them.

        Args:
            files: The piece, its parts and its data.
            folders: Folders of profiles: every file directly in them counts.
            pictures: Folders of pictures: every picture in them counts.
        """
        self._files = {file.resolve() for file in files}
        self._folders = {folder.resolve() for folder in folders}
        self._pictures = {folder.resolve() for folder in pictures}

    @property
    def places(self) -> list[Path]:
        """The folders to watch."""
        return sorted({file.parent for file in self._files} | self._folders | self._pictures)

    def counts(self, change: Change, path: str) -> bool:
        """Tell whether a changed path is one of these files."""
        found = Path(path)
        if found in self._files or found.parent in self._folders:
            return True
        kind = mimetypes.guess_type(found.name)[0] or ""
        return kind.startswith("image/") and any(found.is_relative_to(folder) for folder in self._pictures)


def serve(board: Callable[[], Board], watched: Watched, port: int, told: Callable[[str], None]) -> None:
    """Serve a board until the process is interrupted.

    Args:
        board: Makes the board, within the event loop.
        watched: Files after whose change the sheet is made anew.
        port: Port on 127.0.0.1; 0 for any that is free.
        told: Is given the page's address, once it can be asked for.

    Raises:
        OutputError: the port is taken.
    """
    listening = listen(port)
    with listening:
        asyncio.run(_serve(board, watched, listening, told))


async def _serve(
    make: Callable[[], Board], watched: Watched, listening: socket.socket, told: Callable[[str], None]
) -> None:
    board = make()
    port = listening.getsockname()[1]
    config = uvicorn.Config(
        application(board, port), log_level="critical", lifespan="off", timeout_graceful_shutdown=1, ws="none"
    )
    server = uvicorn.Server(config)
    await board.make()
    stopping = asyncio.Event()
    watching = asyncio.create_task(_watch(board, watched, stopping))
    ending = asyncio.create_task(_end_streams(server, board))
    told(f"http://127.0.0.1:{port}/")
    try:
        await server.serve(sockets=[listening])
    finally:
        stopping.set()
        ending.cancel()
        await asyncio.gather(watching, ending, return_exceptions=True)


async def _watch(board: Board, watched: Watched, stopping: asyncio.Event) -> None:
    while not stopping.is_set():
        try:
            async for _ in awatch(
                *watched.places, watch_filter=watched.counts, debounce=_LONGEST, step=_QUIET, stop_event=stopping,
                recursive=True, ignore_permission_denied=True, raise_interrupt=False,
            ):  # fmt: skip
                await board.make()
        except Exception as error:  # a folder went, or the system watches no more of them
            await board.tell(f"The files cannot be watched just now ({error}); trying again.")
            await asyncio.sleep(_AGAIN)
            await board.make()


async def _end_streams(server: uvicorn.Server, board: Board) -> None:
    """Close the board once the server is asked to stop: it waits for open streams."""
    while not server.should_exit:
        await asyncio.sleep(0.05)
    await board.close()
