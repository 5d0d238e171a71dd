"""Nothing is fetched: pictures, frames and videos become labelled boxes of their own size, or local files."""

from __future__ import annotations

import base64
import html
import mimetypes
from pathlib import Path
from urllib.parse import quote, unquote, urlsplit

from verse_tray.markup.addresses import clean, host_of
from verse_tray.markup.tree import Element, Tree

_LARGEST_EMBEDDED = 2_000_000  # bytes; a sheet has to stay small enough to open and to send
_PICTURE_SIZE = (320, 200)


def fill_placeholders(tree: Tree, pictures: tuple[Path, ...]) -> None:
    """Make a tree show without a network.

    Args:
        tree: The tree, edited in place: hand in a clone.
        pictures: Folders in which a picture is looked for by its file name.
    """
    for element in tree.elements():
        attributes = element.attributes
        if element.name == "img" and attributes.get("src"):
            attributes.pop("srcset", None)
            attributes["src"] = _local(attributes["src"], pictures) or _box(
                _label(element), *_size(element, _PICTURE_SIZE)
            )
        elif element.name == "source":
            attributes.pop("srcset", None)
            attributes.pop("src", None)
        elif element.name == "video":
            attributes["poster"] = _box("video", *_size(element, (640, 360)))
        elif element.name == "iframe" and "src" in attributes:
            shown = html.escape(host_of(attributes.pop("src")) or "no address")
            attributes["srcdoc"] = f"<body style='{_FRAME_LOOK}'>frame: {shown}"
        elif element.name in ("a", "area", "form", "base"):
            attributes.pop("target", None)  # the page's own base sends every link to a window that may not open


_FRAME_LOOK = (
    "margin:0;height:100vh;display:grid;place-items:center;background:repeating-linear-gradient(45deg,#e8eef0 0 12px,"
    "#dde6e9 12px 24px);color:#32505c;font:16px sans-serif"
)


def _label(element: Element) -> str:
    name = Path(urlsplit(clean(element.attributes["src"])).path).name if _readable(element.attributes["src"]) else ""
    return unquote(name) or element.attributes.get("alt") or "picture"


def _readable(address: str) -> bool:
    try:
        urlsplit(clean(address))
    except ValueError:
        return False
    return True


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
    size = max(9, min(18, width // 12))
    shown = html.escape(
        label if len(label) * size * 0.6 < width else label[: max(1, int(width / size / 0.6) - 1)] + "…"
    )
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">'
        f'<rect width="100%" height="100%" fill="#d3e2e6"/>'
        f'<path d="M0 0L{width} {height}M{width} 0L0 {height}" stroke="#b4ccd3"/>'
        f'<text x="50%" y="50%" fill="#23424e" font-family="sans-serif" font-size="{size}" '
        f'text-anchor="middle" dominant-baseline="middle">{shown}</text></svg>'
    )
    return "data:image/svg+xml," + quote(svg)


def _local(address: str, folders: tuple[Path, ...]) -> str | None:
    """Return a picture found by its file name, as a data address; never one outside the folders given."""
    if not _readable(address):
        return None
    name = Path(unquote(urlsplit(clean(address)).path)).name
    kind = mimetypes.guess_type(name)[0] or ""
    if not name or not kind.startswith("image/"):
        return None
    for folder in folders:
        path = folder / name
        try:
            if path.is_file() and path.stat().st_size <= _LARGEST_EMBEDDED:
                return f"data:{kind};base64,{base64.b64encode(path.read_bytes()).decode('ascii')}"
        except (OSError, ValueError):  # a name that no file can have, or one that may not be read: show the box
            continue
    return None
