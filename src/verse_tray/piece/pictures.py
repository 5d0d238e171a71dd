"""The pictures of a piece with their files, for the rules about them."""

from __future__ import annotations

import base64
import binascii
import re
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path
from urllib.parse import unquote, unquote_to_bytes

from verse_tray.markup.addresses import clean, scheme_of
from verse_tray.markup.tree import Element
from verse_tray.media.picture_size import Measured, Unreadable, measure, measure_file
from verse_tray.model.patterns import lazy
from verse_tray.piece.subject import Subject

_DRIVE = lazy(r"[A-Za-z]:")  # no scheme has one letter only


def is_own(address: str) -> bool:
    """Tell whether an address is a path on the author's machine or in the network there."""
    address = clean(address)
    return bool(_DRIVE.match(address)) or address.startswith("\\\\") or scheme_of(address) == "file"


def is_local(address: str) -> bool:
    """Tell whether an address is a path on the author's machine, or one beside the piece."""
    address = clean(address)
    return is_own(address) or (
        bool(address)
        and scheme_of(address) is None
        and not address.startswith(("/", "#", "?", "{", "%", "[", "<", "$"))
    )


def local_file(subject: Subject, address: str, *, seek: bool = False) -> Path | None:
    """Return the file of a local address, if there is one.

    Args:
        subject: The piece, with its folder.
        address: The address.
        seek: Whether the path of another machine, or of another folder, is looked for by its last parts.
    """
    if subject.folder is None or not is_local(address):
        return None
    bare = unquote(re.split(r"[?#]", clean(address))[0])
    parts = [part for part in re.split(r"[\\/]+", bare.removeprefix("file:")) if part and part != "."]
    if not seek:
        return _existing(subject.folder / bare) if scheme_of(address) is None else None
    tails = ("/".join(parts[first:]) for first in range(len(parts)) if not parts[first].endswith((":", "..")))
    return next((found for tail in tails if (found := _existing(subject.folder / tail)) is not None), None)


def _existing(path: Path) -> Path | None:
    try:
        return path if path.is_file() else None
    except (OSError, ValueError):
        return None


def pictures(subject: Subject) -> Iterator[tuple[Element, Measured | Unreadable | None]]:
    """Yield each picture with what is known of its file: local, or written into the address."""
    for element in subject.each("img"):
        yield element, measured(subject, element.attributes.get("src", ""))


def measured(subject: Subject, address: str, *, seek: bool = False) -> Measured | Unreadable | None:
    """Return what is known of the file behind an address; None for one that is not at hand. See :func:`local_file`."""
    if scheme_of(address) == "data":
        return embedded(address)
    path = local_file(subject, address, seek=seek)
    return None if path is None else _of_file(path, path.stat().st_mtime_ns)


@lru_cache(maxsize=256)
def _of_file(path: Path, _changed: int) -> Measured | Unreadable:
    return measure_file(path)


@lru_cache(maxsize=64)
def embedded(address: str) -> Measured | Unreadable | None:
    """Measure a picture that stands in its address (RFC 2397); None for another kind of file."""
    head, comma, body = clean(address).partition(",")
    if not comma or not head.lower().startswith("data:image/"):
        return None
    try:
        data = (
            base64.b64decode(unquote(body) + "===", validate=False)
            if head.endswith(";base64")
            else unquote_to_bytes(body)
        )
    except (binascii.Error, ValueError):
        return Unreadable("is no base64 that can be read")
    return measure(data)
