"""A framed video, and a framed map."""

from __future__ import annotations

from typing import NamedTuple

from msgspec import Struct

from verse_tray.make.builder import Builder, Made, Styles, Terms
from verse_tray.make.survive import form
from verse_tray.make.words import WORDS, Words
from verse_tray.markup.addresses import host_of
from verse_tray.markup.parse import parse_fragment
from verse_tray.model.errors import InputError

FORMS = (
    form("frame", "a frame that keeps its proportion", "tag:iframe", "property:aspect-ratio", "property:width"),
    form("box", "a frame in a box of its proportion", "tag:iframe", "tag:div", "property:position", "property:height",
         "property:padding-bottom"),
    form("fixed", "a frame of a fixed size", "tag:iframe", "attribute:width", "attribute:height"),
    form("link", "a link to it"),
)  # fmt: skip
"""The forms of a frame, the best first."""


class Frame(Struct, frozen=True):
    """What is framed."""

    address: str
    """Its address."""
    title: str
    """What it shows; screen readers read it aloud."""
    width: int = 640
    """Greatest width in CSS pixels."""
    height: int = 360
    """Height in CSS pixels at that width."""
    picture: str = ""
    """Address of a picture for a link to it, where no frame survives."""


class Embedded(NamedTuple):
    """What an embed code says."""

    address: str
    title: str
    width: int | None
    height: int | None


def embedded(text: str, kind: str) -> Embedded | None:
    """Return what an embed code frames; None for a text that is none.

    Raises:
        InputError: there is no frame with an address in it.
    """
    if not text.lstrip().startswith("<"):
        return None
    for element in parse_fragment(text).tree.elements():
        if element.name == "iframe" and element.attributes.get("src", "").strip():
            given = element.attributes
            width, height = (_number(given.get(name, "")) for name in ("width", "height"))
            return Embedded(given["src"].strip(), given.get("title", "").strip(), width, height)
    raise InputError(f"{kind}: there is no frame with an address in this embed code. Give the address itself.")


def _number(typed: str) -> int | None:
    return int(typed) if typed.isdecimal() and len(typed) < 6 else None


def make_frame(
    kind: str,
    frame: Frame,
    styles: Styles | Terms,
    *,
    form: str = "frame",
    words: Words = WORDS["en"],
    name: str | None = None,
) -> Made:
    """Make a frame with a video or a map that keeps its proportion on every screen, or what stands for it.

    Args:
        kind: ``video`` or ``map``.
        frame: What is framed.
        styles: Where its look goes.
        form: One of ``FORMS``.
        words: What a link to it says in front of the title.
        name: What its classes begin with.

    Raises:
        InputError: the address has no host or no secure scheme, or the title is missing.
    """
    build = Builder(kind, styles, frame, name=name)
    address = build.address(frame.address, kind)
    if address.startswith("//"):
        address = f"https:{address}"
    if not address.startswith("https://") or not host_of(address):
        raise InputError(
            f"{kind}: {address} cannot be framed on a secure page. Give an address that begins with https://."
        )
    title = frame.title.strip()
    if not title:
        raise InputError(f"{kind}: give a --title that says what the frame shows; screen readers read it aloud.")
    if form == "link":
        return _link(build, kind, address, frame, words)
    width, height = frame.width, frame.height
    extra: dict[str, str | None] = (
        {"allowfullscreen": "", "allow": "fullscreen; picture-in-picture"} if kind == "video" else {}
    )
    looks = {
        "frame": f"width: 100%; max-width: {width}px; aspect-ratio: {width} / {height}; height: auto; border: 0",
        "box": "position: absolute; top: 0; left: 0; width: 100%; height: 100%; border: 0",
        "fixed": "max-width: 100%; border: 0",
    }
    # with nothing to keep it within a narrow page, it is as wide as that
    wide = build.styles in (Styles.NONE, Styles.SEPARATE) or build.terms.lacks("property", "whole", "max-width")
    made = build.element(
        "iframe",
        look=looks[form],
        role="frame" if form == "box" else "whole",
        src=address,
        title=title,
        width="100%" if wide else str(width),
        height=str(height),
        loading="lazy",
        **extra,
    )
    build.notes.append(f"The editor has to allow frames from {host_of(address)}; verse-tray check tells which do.")
    if form != "box":
        return build.made(made)
    inner = build.element(
        "div", made, look=f"position: relative; height: 0; padding-bottom: {100 * height / width:.4g}%", role="box"
    )
    return build.made(build.element("div", inner, look=f"max-width: {width}px", role="whole"))


def _link(build: Builder, kind: str, address: str, frame: Frame, words: Words) -> Made:
    said = f"{words.watch if kind == 'video' else words.map}: {frame.title.strip()}"
    if not frame.picture:
        return build.made(build.element("p", build.element("a", said, href=address)))
    picture = build.address(frame.picture, "--picture", picture=True)
    img = build.element("img", look="max-width: 100%; height: auto", role="picture", src=picture, alt=said)
    return build.made(build.element("p", build.element("a", img, href=address)))
