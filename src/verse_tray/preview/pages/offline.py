"""A tree made fit to be shown without a network: labelled boxes for what would be fetched, nothing that reaches out."""

from __future__ import annotations

import html
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from urllib.parse import quote, unquote, urlsplit

from verse_tray.markup.addresses import clean, host_of
from verse_tray.markup.names import HTML, SVG
from verse_tray.markup.parse import parse_document
from verse_tray.markup.serialise import serialise
from verse_tray.markup.splice import Splice, Spliced
from verse_tray.markup.tree import Element, Text, Tree
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.style.tokens import style_addresses

_PICTURE_SIZE = (320, 200)
_DEEPEST = 4  # documents inside one another
_NO_LOOKING_UP = '<meta http-equiv="x-dns-prefetch-control" content="off">'
BOXED = "data-tray-boxed"
"""Attribute of a picture in whose place a box is shown."""


def make_offline(tree: Tree, pictures: LocalPictures, *, acting: bool = False, depth: int = 0) -> None:
    """Make a tree show without a network; documents that stand in attributes of it as well.

    Args:
        tree: The tree, edited in place: hand in a clone.
        pictures: Where the author's own pictures are.
        acting: Whether the page is one in which scripts run and links are followed as far as they get.
        depth: How many documents it stands in.
    """
    made = _STILL if not acting else {}
    for element in tree.elements():
        attributes = element.attributes
        if "style" in attributes and "(" in attributes["style"]:
            attributes["style"] = _own_urls(attributes["style"], pictures)
        handle = made.get(element.name) or _ALWAYS.get(element.name)
        if handle is not None:
            handle(element, pictures)
        elif element.name in _REACHING and element.namespace == HTML and not (acting and element.name in _FOLLOWED):
            for attribute in _REACHING[element.name]:
                attributes.pop(attribute, None)
        if "srcdoc" in attributes and element.name == "iframe":
            attributes["srcdoc"] = _nested(attributes["srcdoc"], pictures, acting=acting, depth=depth)
        for name in _pictured(element):
            attributes[name] = pictures.address(attributes[name]) or attributes[name]
        attributes.pop("autofocus", None)
        attributes.pop("attributionsrc", None)  # asks by itself, whatever the policy says


def _pictured(element: Element) -> tuple[str, ...]:
    """Return the attributes with addresses of pictures, besides those of elements that have a handle of their own."""
    if element.namespace == SVG:
        names: tuple[str, ...] = ("href", "xlink:href") if element.name in ("image", "feImage") else ()
    elif element.name == "input":
        names = ("src",)
    else:
        names = ("background",)
    return tuple(name for name in names if name in element.attributes)


def _nested(document: str, pictures: LocalPictures, *, acting: bool, depth: int) -> str:
    if depth >= _DEEPEST:
        return f"<body style='{_FRAME_LOOK}'>frame within frames"
    tree = parse_document(document).take_tree()
    make_offline(tree, pictures, acting=acting, depth=depth + 1)
    return _NO_LOOKING_UP + ("" if acting else '<base target="_blank">') + serialise(tree).markup


@lru_cache(maxsize=64)
def offline_frame(frame: str) -> str:
    """Return the page of a site as it can be shown without a network: as it is, if it reaches for nothing."""
    tree = parse_document(frame).take_tree()
    before = serialise(tree).markup
    make_offline(tree, LocalPictures())
    after = serialise(tree).markup
    return frame if after == before else after


def _style(element: Element, pictures: LocalPictures) -> None:
    for child in element.children:
        if type(child) is Text and "(" in child.data:
            child.data = _own_urls(child.data, pictures)


def _script(element: Element, _: LocalPictures) -> None:
    element.children.clear()
    element.attributes["type"] = "text/plain"


def _picture(element: Element, pictures: LocalPictures) -> None:
    attributes = element.attributes
    if not attributes.get("src"):
        return
    attributes.pop("srcset", None)
    found = pictures.address(attributes["src"])
    if found is None and not attributes["src"].startswith("data:"):
        found = _box(_label(element), *_size(element, _PICTURE_SIZE))
        attributes[BOXED] = ""
    attributes["src"] = found or attributes["src"]


def _progress(element: Element, _: LocalPictures) -> None:
    element.attributes.setdefault("value", "0.5")  # one without a value moves, and no two pictures are alike


def _marquee(element: Element, _: LocalPictures) -> None:
    element.attributes.update(behavior="alternate", scrollamount="0")


def _source(element: Element, _: LocalPictures) -> None:
    element.attributes.pop("srcset", None)
    element.attributes.pop("src", None)


def _video(element: Element, _: LocalPictures) -> None:
    element.attributes["poster"] = _box("video", *_size(element, (640, 360)))


def _still_frame(element: Element, pictures: LocalPictures) -> None:
    _frame(element, pictures)
    if "sandbox" in element.attributes:  # nothing runs in it anyway, and what moves in it can be held
        element.attributes["sandbox"] = "allow-same-origin"


def _still_video(element: Element, pictures: LocalPictures) -> None:
    _video(element, pictures)
    _still_media(element, pictures)


def _still_media(element: Element, _: LocalPictures) -> None:
    """Leave nothing to be loaded: browsers turn a wheel as long as it is, and no two pictures are alike."""
    for name in ("src", "autoplay"):
        element.attributes.pop(name, None)
    element.attributes["preload"] = "none"
    element.children = [each for each in element.children if getattr(each, "name", "") not in ("source", "track")]


def _frame(element: Element, _: LocalPictures) -> None:
    if "srcdoc" in element.attributes:
        element.attributes.pop("src", None)
    elif "src" in element.attributes:
        shown = html.escape(host_of(element.attributes.pop("src")) or "no address")
        element.attributes["srcdoc"] = f"<body style='{_FRAME_LOOK}'>frame: {shown}"


_Handle = Callable[[Element, LocalPictures], None]
_ALWAYS: dict[str, _Handle] = {
    "style": _style,
    "img": _picture,
    "source": _source,
    "video": _video,
    "iframe": _frame,
}
_STILL: dict[str, _Handle] = {
    "script": _script,
    "progress": _progress,
    "marquee": _marquee,
    "iframe": _still_frame,
    "video": _still_video,
    "audio": _still_media,
}
"""What is done only where no script runs."""
_FOLLOWED = ("a", "area", "form")
"""What stays alive where links are followed as far as they get."""
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
    splices = [
        Splice(each.whole, f'url("{found}")')
        for each in style_addresses(css)
        if (found := pictures.address(each.read)) is not None
    ]
    return Spliced(css, splices).text if splices else css


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
