"""The latest entries as Atom (RFC 4287) and as JSON Feed 1.1."""

from __future__ import annotations

import xml.etree.ElementTree as ElementTree
from typing import Any

from verse_tray.model.xml_text import xml_text
from verse_tray.practise.store import Entry

TITLE = "Gannet Cove Shore Survey, practice site"
"""Title of the feeds."""
_ATOM = "http://www.w3.org/2005/Atom"
_BEGIN = "1970-01-01T00:00:00Z"  # a feed without entries was never updated


def atom(entries: list[Entry], base: str) -> bytes:
    """Return an Atom feed.

    Args:
        entries: Published entries, the latest first.
        base: The address that the site's own begin with.
    """
    ElementTree.register_namespace("", _ATOM)
    feed = ElementTree.Element(f"{{{_ATOM}}}feed")
    _text(feed, "id", f"{base}/")
    _text(feed, "title", TITLE)
    _text(feed, "updated", max((each.updated for each in entries), default=_BEGIN))
    _text(ElementTree.SubElement(feed, f"{{{_ATOM}}}author"), "name", "Gannet Cove Shore Survey")
    for rel, path, kind in (("self", "feed.atom", "application/atom+xml"), ("alternate", "", "text/html")):
        ElementTree.SubElement(feed, f"{{{_ATOM}}}link", rel=rel, href=f"{base}/{path}", type=kind)
    for each in entries:
        entry = ElementTree.SubElement(feed, f"{{{_ATOM}}}entry")
        address = f"{base}/entries/{each.slug}"
        _text(entry, "id", address)
        _text(entry, "title", title_of(each))
        _text(entry, "updated", each.updated)
        _text(entry, "published", each.created)
        ElementTree.SubElement(entry, f"{{{_ATOM}}}link", rel="alternate", href=address, type="text/html")
        for name in each.properties.get("category", []):
            ElementTree.SubElement(entry, f"{{{_ATOM}}}category", term=xml_text(str(name)))
        content = ElementTree.SubElement(entry, f"{{{_ATOM}}}content", type="html")
        content.text = xml_text(each.published)
    made: bytes = ElementTree.tostring(feed, "utf-8", xml_declaration=True)
    return made + b"\n"


def json_feed(entries: list[Entry], base: str) -> dict[str, Any]:
    """Return a JSON Feed; see :func:`atom`."""
    return {
        "version": "https://jsonfeed.org/version/1.1",
        "title": TITLE,
        "home_page_url": f"{base}/",
        "feed_url": f"{base}/feed.json",
        "items": [
            {
                "id": f"{base}/entries/{each.slug}",
                "url": f"{base}/entries/{each.slug}",
                "title": title_of(each),
                "content_html": each.published,
                "date_published": each.created,
                "date_modified": each.updated,
                "tags": [str(name) for name in each.properties.get("category", [])],
            }
            for each in entries
        ],
    }


def title_of(entry: Entry) -> str:
    """Return the title of an entry."""
    return str((entry.properties.get("name") or [""])[0]) or entry.slug.replace("-", " ")


def _text(parent: ElementTree.Element, name: str, text: str) -> None:
    ElementTree.SubElement(parent, f"{{{_ATOM}}}{name}").text = xml_text(text)
