"""What is served: one page, the stream of its changes, and nothing else of this machine."""

from __future__ import annotations

from collections.abc import AsyncIterator
from urllib.parse import urlsplit

from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import PlainTextResponse, Response, StreamingResponse
from starlette.routing import Route
from starlette.types import ASGIApp, Receive, Scope, Send

from verse_tray.preview.live.board import Board

HOSTS = ("127.0.0.1", "localhost")
"""Names under which the page may be asked for: with any other, a page of elsewhere may be asking through a name of its
own that leads here."""
MOST_STREAMS = 50
"""Pages that are kept up to date at once."""
_HEADERS = {
    "Cache-Control": "no-store",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
}


def application(board: Board, port: int) -> ASGIApp:
    """Return the application that serves a board on a port of this machine."""

    async def page(request: Request) -> Response:
        return Response(board.sheet.encode("utf-8", "replace"), media_type="text/html", headers=_HEADERS)

    streams = 0

    async def changes(request: Request) -> Response:
        if streams >= MOST_STREAMS:
            return PlainTextResponse("Too many pages are open on this already.", status_code=503, headers=_HEADERS)

        async def events() -> AsyncIterator[bytes]:
            nonlocal streams
            streams += 1
            try:
                async for state in board.changes():
                    yield b"data: " + state + b"\n\n" if state else b": still here\n\n"
            finally:
                streams -= 1

        return StreamingResponse(events(), media_type="text/event-stream", headers=_HEADERS)

    app = Starlette(routes=[Route("/", page, methods=["GET"]), Route("/changes", changes, methods=["GET"])])
    return _OwnMachineOnly(app, port)


def _host(origin: str) -> str:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return ""


class _OwnMachineOnly:
    """Refuses what does not come from a page of this server, or from nowhere."""

    def __init__(self, app: ASGIApp, port: int) -> None:
        self._app = app
        self._hosts = {f"{host}:{port}" for host in HOSTS}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and (refused := self._refused(Request(scope))):
            await PlainTextResponse(refused, status_code=403, headers=_HEADERS)(scope, receive, send)
        else:
            await self._app(scope, receive, send)

    def _refused(self, request: Request) -> str:
        if request.headers.get("host", "") not in self._hosts:
            return "This page is served to this machine only, under 127.0.0.1 and localhost."
        origin = request.headers.get("origin")
        if origin is not None and _host(origin) not in self._hosts:
            return "Pages of other sites get nothing from here."
        if request.headers.get("sec-fetch-site", "none") not in ("none", "same-origin"):
            return "Pages of other sites get nothing from here."
        return ""
