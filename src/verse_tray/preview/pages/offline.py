"""A tree made fit to be shown without a network: labelled boxes for what would be fetched, nothing that reaches out."""

from __future__ import annotations

import html
import re
from pathlib import Path
from urllib.parse import quote, unquote, urlsplit

from verse_tray.markup.addresses import clean, host_of
from verse_tray.markup.names import HTML
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.preview.pages.local_pictures import LocalPictures

_PICTURE_SIZE = (320, 200)
_URL = re.compile(r"url\(\s*(?:\"([^\"\n]*)\"|'([^'\n]*)'|([^\"'()\s]*))\s*\)", re.I)
BOXED = "data-tray-boxed"
"""Attribute of a picture in whose place a box is shown."""


def make_offline(tree: Tree, pictures: LocalPictures, *, acting: bool = False) -> None:
    """Make a tree show without a network.

    Args:
        tree: The tree, edited in place: hand in a clone.
        pictures: Where the author's own pictures are.
        acting: Whether the page is one in which scripts run and links are followed as far as they get.
    """
    for element in tree.elements():
        attributes = element.attributes
        if "style" in attributes and "(" in attributes["style"]:
            attributes["style"] = _own_urls(attributes["style"], pictures)
        name = element.name
        if name == "style":
            for child in element.children:
                if type(child) is Text and "(" in child.data:
                    child.data = _own_urls(child.data, pictures)
        elif name == "script" and not acting:
            element.children.clear()
            attributes["type"] = "text/plain"
        elif name == "img" and attributes.get("src"):
            attributes.pop("srcset", None)
            found = pictures.address(attributes["src"])
            if found is None and not attributes["src"].startswith("data:"):
                found = _box(_label(element), *_size(element, _PICTURE_SIZE))
                attributes[BOXED] = ""
            attributes["src"] = found or attributes["src"]
        elif name == "progress" and not acting:
            attributes.setdefault("value", "0.5")  # one without a value moves, and no two pictures are alike
        elif name == "marquee" and not acting:
            attributes |= {"behavior": "alternate", "scrollamount": "0"}
        elif name == "source":
            attributes.pop("srcset", None)
            attributes.pop("src", None)
        elif name == "video":
            attributes["poster"] = _box("video", *_size(element, (640, 360)))
        elif name == "iframe" and "src" in attributes:
            shown = html.escape(host_of(attributes.pop("src")) or "no address")
            attributes["srcdoc"] = f"<body style='{_FRAME_LOOK}'>frame: {shown}"
        elif name in _REACHING and element.namespace == HTML and not (acting and name in ("a", "area", "form")):
            for attribute in _REACHING[name]:
                attributes.pop(attribute, None)
        attributes.pop("autofocus", None)


# what a content policy does not hold back: names looked up and connections opened ahead, pages left by themselves
_REACHING = {
    "object": ("data",),
    "embed": ("src",),
    "link": ("href", "imagesrcset"),
    "meta": ("http-equiv",),
    "base": ("href", "target"),
    "a": ("ping", "target"),  # the page's own base sends every link to a window that may not open
    "area": ("ping", "target"),
    "form": ("target",),
}
_FRAME_LOOK = (
    "margin:0;height:100vh;display:grid;place-items:center;background:repeating-linear-gradient(45deg,#e8eef0 0 12px,"
    "#dde6e9 12px 24px);color:#32505c;font:16px sans-serif"
)


def _own_urls(css: str, pictures: LocalPictures) -> str:
    def own(match: re.Match[str]) -> str:
        found = pictures.address(match[1] or match[2] or match[3] or "")
        return match[0] if found is None else f'url("{found}")'

    return _URL.sub(own, css)


def _label(element: Element) -> str:
    try:
        name = Path(urlsplit(clean(element.attributes["src"])).path).name
    except ValueError:
        name = ""
    return unquote(name) or element.attributes.get("alt") or "picture"


def _size(element: Element, otherwise: tuple[int, int]) -> tuple[int, int]:
    sizes = []
    for name, default in zip(("width", "height"), otherwise, strict=True):
        given = element.attributes.get(name, "").removesuffix("px").strip()
        sizes.append(min(int(given[:5]), 10_000) if given.isascii() and given.isdigit() else default)
    width, height = sizes
    if "width" in element.attributes and "height" not in element.attributes:
        height = max(1, width * otherwise[1] // otherwise[0])
    return max(1, width), max(1, height)


def _box(label: str, width: int, height: int) -> str:
    return "data:image/svg+xml," + quote(picture_box(label, width, height))


def picture_box(label: str, width: int, height: int) -> str:
    """Return a labelled box in the place of a picture, as SVG; its size is in CSS pixels."""
    size = max(9, min(18, width // 12))
    shown = html.escape(
        label if len(label) * size * 0.6 < width else label[: max(1, int(width / size / 0.6) - 1)] + "…"
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">'
        f'<rect width="100%" height="100%" fill="#d3e2e6"/>'
        f'<path d="M0 0L{width} {height}M{width} 0L0 {height}" stroke="#b4ccd3"/>'
        f'<text x="50%" y="50%" fill="#23424e" font-family="sans-serif" font-size="{size}" '
        f'text-anchor="middle" dominant-baseline="middle">{shown}</text></svg>'
    )
