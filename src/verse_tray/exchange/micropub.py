"""Micropub, the client's side (W3C Recommendation of 23 May 2017)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import msgspec
from msgspec import Struct

from verse_tray.exchange.client import Answer, Client, ExchangeError, joined, origin_of
from verse_tray.markup.parse import parse_document
from verse_tray.model.phrasing import storable

_REL = re.compile(r"<([^>]*)>((?:[^,\"]|\"[^\"]*\")*)")
_AT_ONCE = 40  # posts


class Endpoint(Struct, frozen=True):
    """A site that can be written to."""

    address: str
    """Address of its Micropub endpoint."""
    media: str = ""
    """Address of its media endpoint; empty where it has none."""


class Stored(Struct, frozen=True):
    """What a site says of a post."""

    content: str
    """Its content: the HTML, or the plain text where there is no HTML."""
    state: str
    """``published``, ``draft``, or what else the site calls it; ``published`` where it says nothing."""
    properties: dict[str, list[Any]]
    """All that it says."""


def discover(client: Client, address: str) -> Endpoint:
    """Find the endpoint of a site, and ask what it can do (Micropub 5.3 and 3.7.1).

    Raises:
        ExchangeError: it has none, or does not let us in.
    """
    answer = client.get(address, accept="text/html, */*;q=0.1")
    if answer.status >= 400:
        raise ExchangeError(f"{address}: the site answers with {answer.status}. Check the address.")
    if origin_of(answer.url) != origin_of(address):  # the token is not for whoever a site leads on to
        raise ExchangeError(f"{address} leads on to {answer.url}. If it is right, give that address as the site's.")
    found = _link(answer)
    if found is None:
        raise ExchangeError(
            f"{address}: this site names no Micropub endpoint (a link with rel=micropub), so nothing can be sent to "
            "it. Paste by hand, and use: verse-tray verify"
        )
    endpoint = joined(answer.url, found)
    client.also_for(endpoint)
    config = _json(_allowed(client.get(endpoint, accept="application/json", query={"q": "config"}), "q=config"))
    media = config.get("media-endpoint")
    if isinstance(media, str) and media:
        client.also_for(media := joined(endpoint, media))
    return Endpoint(endpoint, media if isinstance(media, str) else "")


def create(client: Client, endpoint: Endpoint, properties: dict[str, list[Any]]) -> str:
    """Create a post of the type ``h-entry`` and return its address (3.3).

    Raises:
        ExchangeError: it was not created, or it is not known whether it was.
    """
    answer = client.post_json(endpoint.address, {"type": ["h-entry"], "properties": properties})
    _allowed(answer, "creating a post")
    return _location(answer, endpoint.address)


def update(client: Client, endpoint: Endpoint, url: str, replace: dict[str, list[Any]]) -> str:
    """Replace properties of a post and return its address, which may be a new one (3.4).

    Raises:
        ExchangeError: see :func:`create`.
    """
    answer = client.post_json(endpoint.address, {"action": "update", "url": url, "replace": replace})
    _allowed(answer, "updating the post")
    return joined(url, answer.headers.get("location", "") or url)


def upload(client: Client, endpoint: Endpoint, name: str, data: bytes, kind: str) -> str:
    """Send a file to the media endpoint and return its address (3.6).

    Raises:
        ExchangeError: it was not taken.
    """
    answer = client.post_file(endpoint.media, name, data, kind)
    _allowed(answer, f"uploading {name}")
    return _location(answer, endpoint.media)


def source(client: Client, endpoint: Endpoint, url: str) -> Stored | None:
    """Return what a site has of a post (3.7.2); None where there is no such post.

    Raises:
        ExchangeError: it does not say.
    """
    answer = client.get(endpoint.address, accept="application/json", query={"q": "source", "url": url})
    if answer.status in (404, 410) or (answer.status == 400 and _said(answer)[0] in ("not_found", "invalid_request")):
        return None
    return _stored(_json(_allowed(answer, "q=source")))


def listing(client: Client, endpoint: Endpoint) -> list[tuple[str, Stored]] | None:
    """Return the latest posts with their addresses (an extension in common use: ``q=source`` without an address).

    None where the site does not list them.

    Raises:
        ExchangeError: it could not be asked.
    """
    found = _page(client, endpoint, {})
    return None if found is None else found[0]


def every_post(client: Client, endpoint: Endpoint) -> Iterator[tuple[str, Stored]]:
    """Yield all posts of a site with their addresses, the latest first, some at a time.

    Further posts are asked for by the mark that the site gives (``paging.after``), or else by ``offset``; a site that
    understands neither gives the same ones again, and that is the end.

    Raises:
        ExchangeError: it does not list its posts, or could not be asked.
    """
    known: set[str] = set()
    query: dict[str, str] = {}
    while True:
        found = _page(client, endpoint, query)
        if found is None:
            raise ExchangeError(f"{endpoint.address}: this site does not list its posts (q=source without an address).")
        posts, after = found
        new = [(url, stored) for url, stored in posts if url and url not in known]
        yield from new
        known.update(url for url, _ in new)
        if not new:
            return
        query = {"after": after} if after else {"offset": str(len(known))}


def _page(client: Client, endpoint: Endpoint, query: dict[str, str]) -> tuple[list[tuple[str, Stored]], str] | None:
    """Return some posts and the mark of the next; None where the site does not list them."""
    asked = {"q": "source", "limit": str(_AT_ONCE), **query}
    answer = client.get(endpoint.address, accept="application/json", query=asked)
    if answer.status >= 300 or answer.kind != "application/json":
        return None
    data = _json(answer)
    items, paging = data.get("items"), data.get("paging")
    if not isinstance(items, list):
        return None
    found = []
    for item in items:
        if isinstance(item, dict) and isinstance(item.get("properties"), dict):
            (url,) = [each for each in item["properties"].get("url", []) if isinstance(each, str)][:1] or [""]
            found.append((url, _stored(item)))
    after = paging.get("after") if isinstance(paging, dict) else None
    return found, after if isinstance(after, str) else ""


def _link(answer: Answer) -> str | None:
    """Return where ``rel=micropub`` leads: a header goes before the page (5.3)."""
    for header in answer.links:
        for target, parameters in _REL.findall(header):
            rel = re.search(r";\s*rel\s*=\s*(\"[^\"]*\"|[^\s;,]+)", parameters, re.IGNORECASE)
            if rel and "micropub" in rel[1].strip('"').lower().split():
                return str(target)
    if answer.kind not in ("text/html", "application/xhtml+xml", ""):
        return None
    for element in parse_document(answer.text).tree.elements():
        if element.name in ("link", "a") and "micropub" in element.attributes.get("rel", "").lower().split():
            return element.attributes.get("href", "")
    return None


def _stored(item: dict[str, Any]) -> Stored:
    properties = item.get("properties")
    if not isinstance(properties, dict):
        raise ExchangeError("the site's answer to q=source has no properties: it is none of Micropub's.")
    kept = {str(name): value for name, value in properties.items() if isinstance(value, list)}
    content = (kept.get("content") or [""])[0]
    if isinstance(content, dict):
        content = content.get("html", content.get("value", ""))
    state = (kept.get("post-status") or ["published"])[0]
    return Stored(storable(str(content)), storable(str(state)), kept)


def _location(answer: Answer, asked: str) -> str:
    found = answer.headers.get("location", "")
    if answer.status not in (201, 202) or not found:
        raise ExchangeError(
            f"{asked}: the site answers with {answer.status} and no address of what was made; 201 or 202 with a "
            "Location was expected. Look at the site whether it is there.",
            may_have_arrived=answer.status < 300,
        )
    return joined(asked, found)


def _allowed(answer: Answer, what: str) -> Answer:
    """Return an answer that is no error.

    Raises:
        ExchangeError: it is one; the message says what the site says and what to do (3.8).
    """
    if answer.status < 300:
        return answer
    error, told = _said(answer)
    advice = {
        "unauthorized": "The token is missing, wrong or expired: get a new one from the site.",
        "forbidden": "The token is not allowed to do this: ask for one of somebody who is.",
        "insufficient_scope": "The token lacks the scope for this: get one that has it.",
        "invalid_request": "The site does not understand the request.",
    }.get(error) or {401: "The token is missing, wrong or expired.", 403: "The token is not allowed to do this."}.get(
        answer.status, ""
    )
    said = " ".join(part for part in (error, told and f"({told})") if part)
    arrived = answer.status >= 500
    message = f"{answer.url}: {what} is answered with {answer.status}{': ' if said else ''}{said}. {advice}".rstrip()
    raise ExchangeError(message, may_have_arrived=arrived)


def _said(answer: Answer) -> tuple[str, str]:
    data = _decoded(answer)
    if not isinstance(data, dict):
        return "", ""
    error, told = data.get("error", ""), data.get("error_description", "")
    return (str(error)[:80] if isinstance(error, str) else "", str(told)[:200] if isinstance(told, str) else "")


def _json(answer: Answer) -> dict[str, Any]:
    data = _decoded(answer)
    if not isinstance(data, dict):
        kind = answer.kind or "something without a type"
        raise ExchangeError(
            f"{answer.url}: this is no Micropub endpoint: it answers with {kind}, and JSON was expected."
        )
    return data


def _decoded(answer: Answer) -> Any:
    """Return what the JSON of an answer says; None for what is none."""
    try:
        return msgspec.json.decode(answer.body)
    except (msgspec.DecodeError, RecursionError):
        return None
