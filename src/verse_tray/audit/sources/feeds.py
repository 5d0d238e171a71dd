"""Feeds: Atom 1.0 (RFC 4287), RSS 2.0 with its content module, JSON Feed 1.1."""

from __future__ import annotations

import json
import xml.etree.ElementTree as ElementTree
from collections.abc import Iterator
from email.utils import parsedate_to_datetime
from pathlib import Path
from typing import Any

from verse_tray.audit.post import Post
from verse_tray.model.errors import InputError

_ATOM = "{http://www.w3.org/2005/Atom}"
_CONTENT = "{http://purl.org/rss/1.0/modules/content/}encoded"
_XHTML = "{http://www.w3.org/1999/xhtml}"
_RSS = ("item", "{http://purl.org/rss/1.0/}item")


def of_xml(source: str, path: Path) -> Iterator[Post]:
    """Yield the entries of an Atom or RSS feed; only one is in memory at a time.

    Raises:
        InputError: it is no well-formed XML (with line and column), or it defines entities.
    """
    from defusedxml.common import DefusedXmlException
    from defusedxml.ElementTree import iterparse

    number = 0
    known = False
    stack: list[ElementTree.Element] = []
    try:
        with path.open("rb") as file:
            size = max(1, path.stat().st_size)
            for event, element in iterparse(file, ("start", "end")):
                if event == "start":
                    known = known or element.tag in (f"{_ATOM}feed", "rss") or element.tag.endswith("}RDF")
                    stack.append(element)
                    continue
                stack.pop()
                if element.tag == f"{_ATOM}entry" or element.tag in _RSS:
                    number += 1
                    read = min(1.0, file.tell() / size)
                    yield (_atom if element.tag == f"{_ATOM}entry" else _rss)(source, number, element, read)
                    element.clear()
                    if stack:
                        stack[-1].remove(element)  # else an empty shell of each stays
    except ElementTree.ParseError as error:
        line, column = error.position
        told = str(error).split(":")[0]
        raise InputError(f"{path}:{line}:{column + 1}: this feed is no well-formed XML: {told}.") from None
    except DefusedXmlException as error:
        raise InputError(f"{path}: this feed defines entities, which nobody needs ({type(error).__name__}).") from None
    if not known:
        raise InputError(f"{path}: this is XML, and neither Atom nor RSS.")


def _atom(source: str, number: int, entry: ElementTree.Element, read: float) -> Post:
    content = entry.find(f"{_ATOM}content")
    content = entry.find(f"{_ATOM}summary") if content is None else content
    markup = "" if content is None else _of_content(content)
    shown = [each for each in entry.findall(f"{_ATOM}link") if each.get("rel", "alternate") == "alternate"]
    address = shown[0].get("href", "") if shown else ""
    date = entry.findtext(f"{_ATOM}published") or entry.findtext(f"{_ATOM}updated") or ""
    name = entry.findtext(f"{_ATOM}id") or address or str(number)
    return Post(source, name.strip(), markup, address, date.strip(), read)


def _of_content(content: ElementTree.Element) -> str:
    """Return the markup of an Atom content (RFC 4287, 3.1.1): escaped HTML, XHTML in a ``div``, or text."""
    if content.get("type") == "xhtml":
        holder = content.find(f"{_XHTML}div")
        holder = content if holder is None else holder
        for element in holder.iter():
            element.tag = element.tag.removeprefix(_XHTML)
        inner = "".join(ElementTree.tostring(each, "unicode", method="html") for each in holder)
        return _escaped(holder.text or "") + inner
    text = "".join(content.itertext())
    return text if content.get("type") in ("html", "text/html") else _escaped(text)


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;")


def _rss(source: str, number: int, item: ElementTree.Element, read: float) -> Post:
    found = {element.tag.rpartition("}")[2] if "rss/1.0/}" in element.tag else element.tag: element for element in item}
    text = {tag: "".join(element.itertext()) for tag, element in found.items()}
    markup = text.get(_CONTENT, text.get("encoded", text.get("description", "")))
    address = text.get("link", "").strip()
    name = text.get("guid", "").strip() or address or str(number)
    return Post(source, name, markup, address, _dated(text.get("pubDate", "").strip()), read)


def _dated(date: str) -> str:
    """Return the date of RFC 822 as RFC 3339 has it; what cannot be read stays."""
    try:
        return parsedate_to_datetime(date).isoformat() if date else ""
    except (ValueError, TypeError):
        return date


def of_json(source: str, path: Path) -> Iterator[Post]:
    """Yield the items of a JSON Feed.

    Raises:
        InputError: it is no JSON, or no feed.
    """
    try:
        data = json.loads(path.read_bytes())
    except ValueError as error:
        line, column = getattr(error, "lineno", 1), getattr(error, "colno", 1)
        raise InputError(f"{path}:{line}:{column}: this is no JSON: {getattr(error, 'msg', error)}.") from None
    except RecursionError:
        raise InputError(f"{path}: this JSON is nested too deeply.") from None
    items = data.get("items") if isinstance(data, dict) else None
    if not isinstance(items, list):
        raise InputError(f"{path}: this JSON is no feed: a list named items was expected.")
    for number, item in enumerate(items, 1):
        if isinstance(item, dict):
            yield _json_item(source, number, item, number / len(items))


def _json_item(source: str, number: int, item: dict[str, Any], read: float) -> Post:
    markup = item.get("content_html")
    if not isinstance(markup, str):
        markup = _escaped(str(item.get("content_text", "")))
    address = str(item.get("url", ""))
    date = str(item.get("date_published", item.get("date_modified", "")))
    return Post(source, str(item.get("id", "")) or address or str(number), markup, address, date, read)
