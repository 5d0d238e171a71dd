"""Micropub, the server's side (W3C Recommendation of 23 May 2017), with the extensions that docs/sending.md names."""

from __future__ import annotations

import html
import json
import re
import sqlite3
from typing import Any

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import FormData, UploadFile
from starlette.requests import Request
from starlette.responses import JSONResponse, Response

from verse_tray.practise import channels
from verse_tray.practise.site import USUAL, Refused, Site
from verse_tray.practise.store import Entry

_STATES = ("published", "draft")
_FILES = ("photo", "video", "audio")
_COMMANDS = ("access_token", "action", "url", "h")


class Fault(Exception):
    """A request that is answered with an error (3.8)."""

    def __init__(self, status: int, error: str, told: str) -> None:
        super().__init__(told)
        self.status = status
        self.error = error

    @property
    def answer(self) -> Response:
        """The answer."""
        headers = {"WWW-Authenticate": "Bearer"} if self.status == 401 else {}
        return JSONResponse({"error": self.error, "error_description": str(self)}, self.status, headers)


def bad(told: str) -> Fault:
    """Return the fault of a request that is not understood."""
    return Fault(400, "invalid_request", told)


def _not_kept(error: sqlite3.Error) -> Fault:
    return Fault(507, "insufficient_storage", f"nothing was kept: {error}")


class Micropub:
    """The endpoint, and the media endpoint."""

    def __init__(self, site: Site, base: str) -> None:
        """Take the site, and the address that its own begin with, such as ``http://127.0.0.1:8000``."""
        self._site = site
        self._base = base

    async def endpoint(self, request: Request) -> Response:
        """Answer a request to the Micropub endpoint."""
        try:
            if request.method == "GET":
                self._scopes(request, None)
                return JSONResponse(await run_in_threadpool(self._query, request))
            return await self._post(request)
        except Fault as fault:
            return fault.answer
        except Refused as refused:
            return bad(str(refused)).answer
        except sqlite3.Error as error:
            return _not_kept(error).answer

    async def media(self, request: Request) -> Response:
        """Answer a request to the media endpoint (3.6)."""
        try:
            if request.method == "GET":
                self._scopes(request, None)
                if request.query_params.get("q") != "last":
                    raise bad("q is last here")
                last = self._site.store.last_file()
                return JSONResponse({"url": f"{self._base}/files/{last}"} if last else {})
            form = await self._form(request)
            self._needs(self._scopes(request, _text(form, "access_token")), ("media", "create"))
            file = form.get("file")
            if not isinstance(file, UploadFile):
                raise bad("the file is sent as the part named file of multipart/form-data")
            return Response(status_code=201, headers={"Location": await self._keep(file)})
        except Fault as fault:
            return fault.answer
        except sqlite3.Error as error:
            return _not_kept(error).answer

    async def _form(self, request: Request) -> FormData:
        try:
            return await request.form(max_files=40, max_fields=400, max_part_size=8_000_000)
        except Exception as error:  # each form parser has faults of its own
            raise bad(f"the form cannot be read: {error}") from None

    def _scopes(self, request: Request, in_form: str | None) -> frozenset[str]:
        """Return what the request's token may do; it stands in the header or in the form (3.2 and RFC 6750)."""
        kind, _, secret = request.headers.get("authorization", "").partition(" ")
        in_header = secret.strip() if kind.lower() == "bearer" else ""
        if in_header and in_form:
            raise bad("the token stands in the header and in the body; one of the two is enough")
        token = in_header or in_form
        if not token:
            raise Fault(401, "unauthorized", "a token is missing")
        found = self._site.store.scopes(token)
        if found is None:
            raise Fault(401, "unauthorized", "this token is not known here, or has expired")
        return found

    @staticmethod
    def _needs(scopes: frozenset[str], wanted: tuple[str, ...]) -> None:
        if not scopes.intersection(wanted):
            raise Fault(401, "insufficient_scope", f"this token has no scope {wanted[0]}")

    async def _post(self, request: Request) -> Response:
        kind = request.headers.get("content-type", "").split(";")[0].strip().lower()
        if kind == "application/json":
            data = _decoded(await request.body())
            token = data.pop("access_token", None)
            scopes = self._scopes(request, token if isinstance(token, str) else None)
        elif kind in ("application/x-www-form-urlencoded", "multipart/form-data", ""):
            form = await self._form(request)
            scopes = self._scopes(request, _text(form, "access_token"))
            data = await self._of_form(form, scopes)
        else:
            raise bad(f"{kind} is not understood: JSON or a form was expected")
        action = data.get("action")
        if action is None:
            return await run_in_threadpool(self._create, data, scopes)
        if action == "update" and kind != "application/json":
            raise bad("an update is sent as JSON")
        do = {"update": self._update, "delete": self._delete, "undelete": self._undelete}.get(str(action))
        if do is None:
            raise bad(f"the action {action} is not known: update, delete and undelete are")
        return await run_in_threadpool(do, data, scopes)

    async def _of_form(self, form: FormData, scopes: frozenset[str]) -> dict[str, Any]:
        """Return the request that a form stands for, in the form that JSON has."""
        properties: dict[str, list[Any]] = {}
        data: dict[str, Any] = {}
        for name, value in form.multi_items():
            plain = name.removesuffix("[]")
            if plain in _COMMANDS:
                if isinstance(value, str) and plain != "access_token":
                    data[plain] = value
                continue
            if isinstance(value, UploadFile):
                if plain not in _FILES:
                    raise bad(f"a file is sent as photo, video or audio, not as {plain}")
                self._needs(scopes, ("create", "media"))
                value = await self._keep(value)
            properties.setdefault(plain, []).append(value)
        data["type"] = [f"h-{data.pop('h', 'entry')}"]
        data["properties"] = properties
        return data

    async def _keep(self, file: UploadFile) -> str:
        data = await file.read()
        name = re.sub(r"[^\w.-]+", "-", file.filename or "file").strip(".-")[-80:] or "file"
        kind = (file.content_type or "application/octet-stream").split(";")[0].lower()
        served = await run_in_threadpool(self._site.store.add_file, name, kind, data)
        return f"{self._base}/files/{served}"

    def _create(self, data: dict[str, Any], scopes: frozenset[str]) -> Response:
        if data.get("type", ["h-entry"]) != ["h-entry"]:
            raise bad('only entries can be made here: type is ["h-entry"]')
        properties = _properties(data.get("properties", {}), "properties")
        state = _state(properties, "published")
        self._needs(scopes, ("create", "draft") if state == "draft" else ("create",))
        text = _content(properties)
        if text is None and not any(properties.get(name) for name in (*_FILES, "name")):
            raise bad("an entry has a content, a name, or a photo, video or audio")
        slug = _first(properties, "mp-slug")
        channel = _first(properties, "mp-channel") or USUAL
        if channel not in channels.channels() or channel in channels.BY_BROWSER:
            raise bad(f"there is no channel {channel}; q=channel lists them")
        kept = {name: values for name, values in properties.items() if not name.startswith("mp-")}
        entry = self._site.new(channel, text or "", slug, kept, state=state)
        return Response(status_code=201, headers={"Location": self.address(entry)})

    def _update(self, data: dict[str, Any], scopes: frozenset[str]) -> Response:
        self._needs(scopes, ("update",))
        entry = self._entry(data)
        changes = [name for name in ("replace", "add", "delete") if name in data]
        if not changes:
            raise bad("an update says what to replace, to add or to delete")
        properties = {name: list(values) for name, values in entry.properties.items()}
        before = properties.get("content")
        properties.pop("content", None)
        replaced = _properties(data.get("replace", {}), "replace")
        properties |= replaced
        for name, values in _properties(data.get("add", {}), "add").items():
            if name == "content":
                raise bad("content can be replaced, and not added to")
            properties[name] = [*properties.get(name, []), *values]
        gone = data.get("delete", [])
        names = gone if isinstance(gone, list) else []
        for name, values in ({} if isinstance(gone, list) else _properties(gone, "delete")).items():
            properties[name] = [each for each in properties.get(name, []) if each not in values]
            names += [] if properties[name] else [name]
        text = _content(replaced)
        if "content" in names:
            text = ""
        for name in names:
            properties.pop(str(name), None)
        if text is None and before is not None:
            properties["content"] = before
        state = _state(properties, entry.state)
        kept = {name: values for name, values in properties.items() if not name.startswith("mp-")}
        self._site.replace(entry, text, kept, state)
        return Response(status_code=204)

    def _delete(self, data: dict[str, Any], scopes: frozenset[str]) -> Response:
        self._needs(scopes, ("delete",))
        self._site.delete(self._entry(data))
        return Response(status_code=204)

    def _undelete(self, data: dict[str, Any], scopes: frozenset[str]) -> Response:
        self._needs(scopes, ("undelete", "delete"))
        self._site.delete(self._entry(data, deleted=True), deleted=False)
        return Response(status_code=204)

    def _query(self, request: Request) -> dict[str, Any]:
        asked = request.query_params
        what = asked.get("q", "")
        named = [{"uid": name, "name": name} for name in channels.channels() if name not in channels.BY_BROWSER]
        if what == "config":
            return {
                "media-endpoint": f"{self._base}/media",
                "syndicate-to": [],
                "q": ["config", "source", "syndicate-to", "channel", "category", "post-types"],
                "channels": named,
                "post-types": [{"type": "article", "name": "Post"}],
            }
        answers: dict[str, dict[str, Any]] = {
            "syndicate-to": {"syndicate-to": []},
            "channel": {"channels": named},
            "post-types": {"post-types": [{"type": "article", "name": "Post"}]},
        }
        if what in answers:
            return answers[what]
        if what == "category":
            found = [each for entry in self._site.store.entries() for each in entry.properties.get("category", [])]
            return {"categories": list(dict.fromkeys(map(str, found)))}
        if what == "source":
            return self._source(request)
        raise bad(f"q={what} is not known" if what else "q is missing")

    def _source(self, request: Request) -> dict[str, Any]:
        wanted = [*request.query_params.getlist("properties[]"), *request.query_params.getlist("properties")]
        if "url" in request.query_params:
            entry = self._entry({"url": request.query_params["url"]})
            properties = self._shown(entry)
            if wanted:
                return {"properties": {name: properties[name] for name in wanted if name in properties}}
            return {"type": ["h-entry"], "properties": properties}
        limit, offset = (_count(request, name, usual) for name, usual in (("limit", 20), ("offset", 0)))
        entries = self._site.store.entries(limit=min(limit, 100), offset=offset)
        items = [{"type": ["h-entry"], "properties": self._shown(each)} for each in entries]
        return {"items": items}

    def _shown(self, entry: Entry) -> dict[str, list[Any]]:
        return {
            **entry.properties,
            "content": [{"html": entry.stored}],
            "post-status": [entry.state],
            "published": [entry.created],
            "updated": [entry.updated],
            "url": [self.address(entry)],
            "channel": [entry.channel],
        }

    def address(self, entry: Entry) -> str:
        """Return the address of an entry's page."""
        return f"{self._base}/entries/{entry.slug}"

    def _entry(self, data: dict[str, Any], *, deleted: bool = False) -> Entry:
        url = data.get("url")
        if not isinstance(url, str):
            raise bad("url is missing: the address of the post")
        found = re.fullmatch(re.escape(self._base) + r"/entries/([a-z0-9-]+)", url)
        entry = self._site.store.entry(found[1]) if found else None
        if entry is None or entry.deleted != deleted:
            raise bad(f"there is no post {url}")
        return entry


def _decoded(body: bytes) -> dict[str, Any]:
    try:
        data = json.loads(body)
    except (ValueError, RecursionError):
        raise bad("the body is no JSON") from None
    if not isinstance(data, dict):
        raise bad("the body is no JSON object")
    return data


def _text(form: FormData, name: str) -> str | None:
    value = form.get(name)
    return value if isinstance(value, str) and value else None


def _properties(value: Any, where: str) -> dict[str, list[Any]]:
    """Return properties: their values are lists, all of them (3.4)."""
    if not isinstance(value, dict) or not all(isinstance(each, list) for each in value.values()):
        raise bad(f"{where}: an object was expected whose values are lists")
    return {str(name): each for name, each in value.items()}


def _first(properties: dict[str, list[Any]], name: str) -> str:
    return str((properties.get(name) or [""])[0])


def _state(properties: dict[str, list[Any]], usual: str) -> str:
    state = _first(properties, "post-status") or usual
    if state not in _STATES:
        raise bad(f"the state {state} is not known: published and draft are")
    properties.pop("post-status", None)
    return state


def _content(properties: dict[str, list[Any]]) -> str | None:
    """Return the markup of a content: that of HTML as it is, plain text with its signs escaped (3.3.2)."""
    if "content" not in properties:
        return None
    values = properties.pop("content")
    if len(values) > 1:
        raise bad("a post has one content")
    value = values[0] if values else ""
    if isinstance(value, dict):
        found = value.get("html", value.get("value"))
        if not isinstance(found, str):
            raise bad("content is text, or an object with html")
        return found
    if not isinstance(value, str):
        raise bad("content is text, or an object with html")
    return f"<p>{html.escape(value, quote=False)}</p>" if value.strip() else ""


def _count(request: Request, name: str, usual: int) -> int:
    text = request.query_params.get(name, str(usual))
    if not text.isdecimal() or len(text) > 6:
        raise bad(f"{name} is a number")
    return int(text)
