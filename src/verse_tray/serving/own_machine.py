"""A server that only this machine reaches, and that pages of other sites get nothing from."""

from __future__ import annotations

import socket
from collections.abc import Callable
from urllib.parse import urlsplit

from starlette.requests import Request
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from verse_tray.model.errors import OutputError

HOSTS = ("127.0.0.1", "localhost")
"""Names under which it may be asked: with any other, a page of elsewhere may be asking through a name of its own that
leads here."""
HEADERS = {
    "Cache-Control": "no-store",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
}
"""Headers of whatever is served."""


class OwnMachineOnly:
    """Refuses what does not come from a page of this server, or from nowhere."""

    def __init__(self, app: ASGIApp, port: int, is_open: Callable[[Request], bool] = lambda request: False) -> None:
        """Take what is served, on which port, and what tells the requests that any page of this machine may make."""
        self._app = app
        self._hosts = {f"{host}:{port}" for host in HOSTS}
        self._is_open = is_open

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or refuse it."""
        if scope["type"] == "http" and (refused := self._refused(Request(scope))):
            await PlainTextResponse(refused, status_code=403, headers=HEADERS)(scope, receive, send)
        else:
            await self._app(scope, receive, send)

    def _refused(self, request: Request) -> str:
        if request.headers.get("host", "") not in self._hosts:
            return "This page is served to this machine only, under 127.0.0.1 and localhost."
        if self._is_open(request):
            return ""
        origin = request.headers.get("origin")
        if origin is not None and _host(origin) not in self._hosts:
            return "Pages of other sites get nothing from here."
        if request.headers.get("sec-fetch-site", "none") not in ("none", "same-origin"):
            return "Pages of other sites get nothing from here."
        return ""


def _host(origin: str) -> str:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return ""


def listen(port: int) -> socket.socket:
    """Return a socket that listens on a port of 127.0.0.1; 0 for any that is free.

    Raises:
        OutputError: the port is taken.
    """
    listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listening.bind(("127.0.0.1", port))
        listening.listen()  # so that whoever is told the address can ask at once
    except OSError as error:
        listening.close()
        raise OutputError(
            f"port {port} cannot be used: {error.strerror}. Give another with --port, or leave it out for any."
        ) from None
    return listening
