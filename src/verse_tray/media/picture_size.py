"""The real size and weight of a picture file."""

from __future__ import annotations

import io
import re
import warnings
from pathlib import Path

from msgspec import Struct

from verse_tray.model.inputs import read_file
from verse_tray.model.patterns import lazy

LARGEST_SIDE = 30_000
"""Longest side in pixels that is believed: no browser shows more, and who claims more is broken or hostile."""
LARGEST_BYTES = 40_000_000
"""Largest file that is read."""
FORMATS = ("PNG", "JPEG", "GIF", "WEBP", "AVIF", "BMP", "ICO")
"""Formats that browsers show, and no others: for some the imaging library would start a program with the file."""
MOST_PIXELS = 30_000_000
"""Pixels of the largest picture that is unpacked, to see whether it is whole; of others only the ends are looked at."""
MOST_PIXELS_A_BYTE = 400
"""Pixels that a byte may stand for in a picture that is unpacked: more are a trap, or one flat colour."""
FEW_PIXELS = 100_000
"""Pixels that are unpacked in any case."""


class Measured(Struct, frozen=True):
    """A picture file."""

    width: int
    """Width in pixels; 0 when the file does not say."""
    height: int
    """Height in pixels; 0 when the file does not say."""
    weight: int
    """Size of the file in bytes."""
    kind: str
    """Name of the format, such as ``PNG``."""


class Unreadable(Struct, frozen=True):
    """A file that is no picture that browsers show."""

    reason: str
    """Why, in words that go behind *this file*."""


def measure_file(path: Path) -> Measured | Unreadable:
    """Measure a picture on disk."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            return Unreadable(f"is larger than {LARGEST_BYTES:,} bytes")
        return measure(read_file(path))
    except OSError as error:
        return Unreadable(f"cannot be read: {error.strerror or error}")


def measure(data: bytes) -> Measured | Unreadable:
    """Measure a picture from its bytes; of raster files it is seen whether they go to their end."""
    if not data:
        return Unreadable("is empty")
    head = data[:1000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith((b"<svg", b"<?xml", b"<!--", b"<!DOCTYPE svg")) and b"<svg" in data[:20_000]:
        return _drawing(data)
    return _raster(data)


def _raster(data: bytes) -> Measured | Unreadable:
    from PIL import Image, UnidentifiedImageError

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of the size: told below, in words of our own
            with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
                width, height = picture.size
                kind = {"MPO": "JPEG"}.get(picture.format or "", picture.format or "picture")  # a photo and its preview
                if max(width, height) > LARGEST_SIDE:
                    return Unreadable(
                        f"claims {width:,} by {height:,} pixels, and at most {LARGEST_SIDE:,} a side are believed"
                    )
                if width * height <= min(MOST_PIXELS, max(FEW_PIXELS, len(data) * MOST_PIXELS_A_BYTE)):
                    picture.load()
                elif not _is_whole(kind, data):
                    return Unreadable("is cut off before its end")
    except Image.DecompressionBombError:
        return Unreadable(f"claims more pixels than are believed (at most {LARGEST_SIDE:,} a side)")
    except UnidentifiedImageError:
        return Unreadable("is no picture that browsers show")
    except Exception as error:  # the library's readers meet broken bytes with errors of any class
        said = str(error).lower()
        return Unreadable("is cut off before its end" if "trunc" in said else "is no picture that browsers show")
    return Measured(width, height, len(data), kind)


def _is_whole(kind: str, data: bytes) -> bool:
    """Tell by a raster file's last bytes whether it goes to its end."""
    if kind == "PNG":
        return b"IEND" in data[-16:]
    if kind == "JPEG":
        return b"\xff\xd9" in data[-64:]
    if kind == "GIF":
        return b";" in data[-16:]
    if kind == "WEBP":
        return len(data) >= int.from_bytes(data[4:8], "little") + 8
    return True


_LENGTH = lazy(r"\s*(\d*\.?\d+)(?:px)?\s*")


def _drawing(data: bytes) -> Measured | Unreadable:
    from verse_tray.markup.parse import parse_fragment

    text = data[:20_000].decode("utf-8", "replace")
    root = next((e for e in parse_fragment(text[text.index("<svg") :]).tree.elements() if e.name == "svg"), None)
    if root is None:
        return Unreadable("is no drawing that browsers show")
    sides = [_LENGTH.fullmatch(root.attributes.get(name, "")) for name in ("width", "height")]
    if all(sides):
        width, height = (float(side[1]) for side in sides if side)
    else:
        box = root.attributes.get("viewBox", "").replace(",", " ").split()
        width, height = (
            (float(n) if re.fullmatch(r"\d*\.?\d+", n) else 0 for n in box[2:4]) if len(box) == 4 else (0, 0)
        )
    if max(width, height) > LARGEST_SIDE:
        return Unreadable(
            f"claims {width:,.0f} by {height:,.0f} pixels, and at most {LARGEST_SIDE:,} a side are believed"
        )
    return Measured(round(width), round(height), len(data), "SVG")
