"""What is served: one page, the stream of its changes, and nothing else of this machine."""

from __future__ import annotations

from collections.abc import AsyncIterator

from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import PlainTextResponse, Response, StreamingResponse
from starlette.routing import Route
from starlette.types import ASGIApp

from verse_tray.preview.live.board import Board
from verse_tray.serving.own_machine import HEADERS, OwnMachineOnly

MOST_STREAMS = 50
"""Pages that are kept up to date at once."""


def application(board: Board, port: int) -> ASGIApp:
    """Return the application that serves a board on a port of this machine."""

    async def page(request: Request) -> Response:
        return Response(board.sheet, media_type="text/html", headers=HEADERS)

    streams = 0

    async def changes(request: Request) -> Response:
        if streams >= MOST_STREAMS:
            return PlainTextResponse("Too many pages are open on this already.", status_code=503, headers=HEADERS)

        async def events() -> AsyncIterator[bytes]:
            nonlocal streams
            streams += 1
            try:
                async for state in board.changes():
                    yield b"data: " + state + b"\n\n" if state else b": still here\n\n"
            finally:
                streams -= 1

        return StreamingResponse(events(), media_type="text/event-stream", headers=HEADERS)

    app = Starlette(routes=[Route("/", page, methods=["GET"]), Route("/changes", changes, methods=["GET"])])
    return OwnMachineOnly(app, port)
