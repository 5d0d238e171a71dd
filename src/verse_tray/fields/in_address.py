"""Which part of an address (URL standard) a mark is."""

from __future__ import annotations

import re

from verse_tray.markup.addresses import scheme_of
from verse_tray.model.spans import Span
from verse_tray.piece.contexts import Context
from verse_tray.piece.encoding import RUNNING_SCHEMES

_WRITTEN_PICTURE = re.compile(r"data:image/(?!svg)[\w.+-]+;base64,", re.IGNORECASE)


def in_address(text: str, hole: Span, *, picture: bool = False) -> tuple[Context, str]:
    """Return what a mark is in an address, and why no value can stand there, if so.

    Args:
        text: The address, with letters in place of its marks.
        hole: Place of the mark.
        picture: Whether the address is one of a picture, which is shown and never runs.
    """
    front, behind = text[: hole.start].lstrip(), text[hole.end :]
    scheme = scheme_of(text)
    if scheme is not None and ":" not in front and re.match(r"[A-Za-z0-9+.\s-]*:", behind):
        whole = not front and behind.startswith(":")
        return (Context.SCHEME, "") if whole else (Context.NOWHERE, "the scheme of an address is not made of parts")
    if not front:
        return (Context.PICTURE_ADDRESS if picture else Context.ADDRESS), ""
    if scheme in RUNNING_SCHEMES:
        if picture and _WRITTEN_PICTURE.match(front):
            return Context.ADDRESS_PART, ""
        return Context.NOWHERE, f"an address that begins with {scheme}: runs, or shows, what is written in it"
    return _part(front, scheme), ""


def _part(front: str, scheme: str | None) -> Context:
    if re.search(r"[?#]", front):
        return Context.ADDRESS_PART
    if scheme == "mailto":
        return Context.MAIL
    if scheme in ("tel", "sms"):
        return Context.PHONE
    if re.fullmatch(r"(?:[A-Za-z][\w+.-]*:)?[/\\]{2,}[^/\\]*", front):
        return Context.HOST
    return Context.PATH if re.search(r"[/\\]", front) else Context.ADDRESS_PART
