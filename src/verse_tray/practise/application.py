"""The practice site's addresses: pages of readers, pages of authors, Micropub and feeds."""

from __future__ import annotations

import hmac
import json
import secrets
import sqlite3
from pathlib import Path
from typing import Any

from starlette.applications import Starlette
from starlette.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect, Request
from starlette.responses import HTMLResponse, JSONResponse, PlainTextResponse, RedirectResponse, Response
from starlette.routing import Route
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from verse_tray.practise import channels, feeds
from verse_tray.practise.micropub import Micropub
from verse_tray.practise.site import Refused, Site
from verse_tray.practise.store import Entry, hashed
from verse_tray.preview.templates import render
from verse_tray.serving.own_machine import HEADERS, OwnMachineOnly

MOST_BYTES = 20_000_000
"""Of the body of a request."""
_PAGES = Path(__file__).parent / "pages"
_COOKIE = "practice-session"
_SANDBOX = "sandbox allow-scripts allow-forms allow-popups"
_OF_ENTRIES = f"{_SANDBOX}; default-src 'self' 'unsafe-inline' data: blob:; frame-ancestors 'self'"
_OF_FILES = "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src 'self' data:; media-src 'self'"
_OF_OURS = (
    "default-src 'none'; style-src 'self' 'unsafe-inline'; script-src 'self'; connect-src 'self'; "
    "img-src 'self' data:; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
_OPEN = ("/entries/", "/files/", "/feed.")


def application(site: Site, port: int, token: str) -> ASGIApp:
    """Return the application that serves the practice site on a port of this machine.

    Args:
        site: The site.
        port: The port.
        token: What lets people sign in.
    """
    base = f"http://127.0.0.1:{port}"
    micropub = Micropub(site, base)
    pages = _Pages(site, base, hashed(token))
    routes = [
        Route("/", pages.home, methods=["GET"]),
        Route("/entries/{slug}", pages.entry, methods=["GET"]),
        Route("/files/{name}", pages.file, methods=["GET"]),
        Route("/feed.atom", pages.atom, methods=["GET"]),
        Route("/feed.json", pages.json_feed, methods=["GET"]),
        Route("/sign-in", pages.sign_in, methods=["GET", "POST"]),
        Route("/sign-out", pages.sign_out, methods=["POST"]),
        Route("/editors/{channel}", pages.editor, methods=["GET"]),
        Route("/editors/{channel}/{action:str}", pages.act, methods=["POST"]),
        Route("/pane", pages.pane, methods=["GET"]),
        Route("/ours/{name}", pages.ours, methods=["GET"]),
        Route("/micropub", micropub.endpoint, methods=["GET", "POST"]),
        Route("/media", micropub.media, methods=["GET", "POST"]),
    ]
    return OwnMachineOnly(_Bounded(Starlette(routes=routes)), port, _is_open)


def _is_open(request: Request) -> bool:
    """Tell whether any page of this machine may ask: what readers see is shown in an origin of its own."""
    path = request.url.path
    return request.method in ("GET", "HEAD") and (path == "/" or path.startswith(_OPEN))


class _Bounded:
    """Refuses bodies that are too long, be their length told or not."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        told = Request(scope).headers.get("content-length", "0")
        taken = 0

        async def counted() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > MOST_BYTES:
                raise _TooLongError
            return message

        try:
            if not told.isdecimal() or int(told[:12]) > MOST_BYTES:
                raise _TooLongError
            await self._app(scope, counted, send)
        except _TooLongError:
            answer = {"error": "invalid_request", "error_description": f"the body has more than {MOST_BYTES:,} bytes"}
            await JSONResponse(answer, 413, {**HEADERS, "Connection": "close"})(scope, receive, send)
        except ClientDisconnect:
            return


class _TooLongError(Exception):
    """A body that is too long."""


class _Pages:
    def __init__(self, site: Site, base: str, token: str) -> None:
        self._site = site
        self._base = base
        self._token = token

    def _role(self, request: Request) -> str | None:
        return self._site.store.role(request.cookies.get(_COOKIE, ""))

    def _page(self, template: str, request: Request, **values: Any) -> Response:
        made = render(template, _PAGES, role=self._role(request), base=self._base, day=self._site.day, **values)
        headers = {**HEADERS, "Content-Security-Policy": _OF_OURS, "Referrer-Policy": "same-origin"}
        return HTMLResponse(str(made).encode("utf-8", "replace"), headers=headers)

    def home(self, request: Request) -> Response:
        """Show the latest entries, and where the editors are."""
        role = self._role(request)
        entries = self._site.store.entries(state="" if role else "published")
        rows = [(each, feeds.title_of(each)) for each in entries]
        answer = self._page("home.html", request, rows=rows, editors=_editors(self._site, role or "author"))
        answer.headers["Link"] = f'<{self._base}/micropub>; rel="micropub"'
        return answer

    def entry(self, request: Request) -> Response:
        """Show what readers get of an entry, in an origin of its own."""
        entry = self._site.store.entry(request.path_params["slug"])
        if entry is None or (entry.state != "published" and self._role(request) is None):
            return PlainTextResponse("There is no such page.", 404, HEADERS)
        if entry.deleted:
            return PlainTextResponse("This page was deleted.", 410, HEADERS)
        if entry.state != "published":
            return PlainTextResponse("This is a draft: it is not published yet.", 404, HEADERS)
        headers = {**HEADERS, "Content-Security-Policy": _OF_ENTRIES, "X-Frame-Options": "SAMEORIGIN"}
        return HTMLResponse(self._site.page(entry).encode("utf-8", "replace"), headers=headers)

    def file(self, request: Request) -> Response:
        """Serve a file that was uploaded."""
        found = self._site.store.file(request.path_params["name"])
        if found is None:
            return PlainTextResponse("There is no such file.", 404, HEADERS)
        kind, data = found
        kind = kind if kind.split("/")[0] in ("image", "video", "audio") else "application/octet-stream"
        headers = {**HEADERS, "Content-Security-Policy": _OF_FILES, "Cross-Origin-Resource-Policy": "cross-origin"}
        return Response(data, media_type=kind, headers=headers)

    def atom(self, request: Request) -> Response:
        """Serve the Atom feed."""
        return Response(feeds.atom(self._latest(), self._base), media_type="application/atom+xml", headers=HEADERS)

    def json_feed(self, request: Request) -> Response:
        """Serve the JSON feed."""
        data = json.dumps(feeds.json_feed(self._latest(), self._base), ensure_ascii=False).encode("utf-8", "replace")
        return Response(data, media_type="application/feed+json", headers=HEADERS)

    def _latest(self) -> list[Entry]:
        return self._site.store.entries(state="published", limit=40)

    async def sign_in(self, request: Request) -> Response:
        """Let somebody in who has the token."""
        if request.method == "GET":
            return self._page("sign_in.html", request, roles=channels.ROLES, told="")
        form = await request.form(max_files=0, max_fields=4)
        role, key = str(form.get("role", "")), str(form.get("token", "")).strip()
        if role not in channels.ROLES or not hmac.compare_digest(hashed(key), self._token):
            told = "That is not the token. It was printed when the site was started, and stands in its folder."
            return self._page("sign_in.html", request, roles=channels.ROLES, told=told)
        answer = RedirectResponse("/", 303, HEADERS)
        secret = await run_in_threadpool(self._site.store.sign_in, role)
        answer.set_cookie(_COOKIE, secret, httponly=True, samesite="strict", path="/")
        return answer

    def sign_out(self, request: Request) -> Response:
        """End a session."""
        self._site.store.sign_out(request.cookies.get(_COOKIE, ""))
        answer = RedirectResponse("/", 303, HEADERS)
        answer.delete_cookie(_COOKIE, path="/")
        return answer

    def editor(self, request: Request) -> Response:
        """Show an editor with its panes."""
        channel, role = request.path_params["channel"], self._role(request)
        if channel not in channels.channels():
            return PlainTextResponse("There is no such editor.", 404, HEADERS)
        if role is None:
            return RedirectResponse("/sign-in", 303, HEADERS)
        asked = request.query_params.get("entry", "")
        entry = self._site.store.entry(asked) if asked else None
        if entry is not None and (entry.channel != channel or entry.deleted):
            entry = None
        configuration = safe = None
        if channel in channels.BY_BROWSER:
            _, configuration, safe = channels.BY_BROWSER[channel]
        editor = self._site.editor(channel, role)
        pane = editor.profile.paste.pane
        return self._page(
            "editor.html",
            request,
            channel=channel,
            title=channels.title_of(channel, editor),
            summary=editor.profile.summary,
            entry=entry,
            has_source=pane == "source",
            configuration=json.dumps(configuration) if configuration is not None else "",
            safe=safe,
            changes=channels.CHANGES if channel == channels.CHANGES_IN else None,
        )

    async def act(self, request: Request) -> Response:
        """Save, open again or publish what stands in an editor."""
        channel, action = request.path_params["channel"], request.path_params["action"]
        role = await run_in_threadpool(self._role, request)
        if role is None:
            return JSONResponse({"told": "Sign in first."}, 401, HEADERS)
        if request.headers.get("content-type", "").split(";")[0] != "application/json":
            return JSONResponse({"told": "JSON was expected."}, 400, HEADERS)
        try:
            data = json.loads(await request.body())
        except (ValueError, RecursionError):
            data = None
        if (
            not isinstance(data, dict)
            or channel not in channels.channels()
            or action not in ("save", "reopen", "publish")
        ):
            return JSONResponse({"told": "This is not understood."}, 400, HEADERS)
        try:
            return JSONResponse(await run_in_threadpool(self._done, channel, action, role, data), headers=HEADERS)
        except Refused as refused:
            return JSONResponse({"told": str(refused)}, 422, HEADERS)
        except sqlite3.Error as error:
            return JSONResponse({"told": f"Nothing was kept: {error}."}, 507, HEADERS)

    def _done(self, channel: str, action: str, role: str, data: dict[str, Any]) -> dict[str, Any]:
        text, visual = str(data.get("text", "")), data.get("pane") == "visual"
        entry = self._site.store.entry(str(data.get("entry", "")))
        if entry is None or entry.channel != channel or entry.deleted:
            if action != "save":
                raise Refused("Save it first.")
            title = str(data.get("title", "")).strip()
            entry = self._site.new(channel, text, "", {"name": [title]} if title else {}, role=role, visual=visual)
        elif action == "save":
            self._site.save(entry, text, role, visual=visual)
        elif action == "reopen":
            self._site.open_again(entry, role)
        else:
            self._site.publish(entry, role)
        return {"entry": entry.slug, "stored": entry.stored, "state": entry.state}

    def pane(self, request: Request) -> Response:
        """Show the visual pane: the browser's own editing surface, in an origin of its own and without scripts."""
        nonce = secrets.token_urlsafe(16)
        script = (_PAGES / "pane.js").read_text("utf-8")
        made = render("pane.html", _PAGES, nonce=nonce, script=script)
        policy = (
            f"sandbox allow-scripts; default-src 'none'; script-src 'nonce-{nonce}'; style-src 'unsafe-inline'; "
            f"img-src {self._base} data:; frame-ancestors 'self'"
        )
        headers = {**HEADERS, "Content-Security-Policy": policy, "X-Frame-Options": "SAMEORIGIN"}
        return HTMLResponse(str(made), headers=headers)

    def ours(self, request: Request) -> Response:
        """Serve a script or a sheet of ours."""
        kinds = {"editor.js": "text/javascript", "site.css": "text/css"}
        kind = kinds.get(request.path_params["name"])
        if kind is None:
            return PlainTextResponse("There is no such file.", 404, HEADERS)
        return Response((_PAGES / request.path_params["name"]).read_bytes(), media_type=kind, headers=HEADERS)


def _editors(site: Site, role: str) -> list[tuple[str, str, str]]:
    found = []
    for name in channels.channels():
        editor = site.editor(name, role)
        found.append((name, channels.title_of(name, editor), editor.profile.summary))
    return found
