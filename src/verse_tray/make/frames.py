"""A framed video, and a framed map."""

from __future__ import annotations

from verse_tray.make.builder import Builder, Made, Styles, checked_address
from verse_tray.markup.addresses import host_of
from verse_tray.model.errors import InputError


def make_frame(
    kind: str, address: str, title: str, styles: Styles, *, width: int, height: int, name: str | None = None
) -> Made:
    """Make a frame with a video or a map that keeps its proportion on every screen.

    Raises:
        InputError: the address has no host or no secure scheme, or the title is missing: screen readers read it aloud.
    """
    address = checked_address(address, kind)
    if not address.startswith("https://") or not host_of(address):
        raise InputError(
            f"{kind}: {address} cannot be framed on a secure page. Give an address that begins with https://."
        )
    if not title.strip():
        raise InputError(f"{kind}: give a --title that says what the frame shows; screen readers read it aloud.")
    build = Builder(kind, styles, (address, title, width, height), name=name)
    extra: dict[str, str | None] = (
        {"allowfullscreen": "", "allow": "fullscreen; picture-in-picture"} if kind == "video" else {}
    )
    frame = build.element(
        "iframe",
        look=f"width: 100%; max-width: {width}px; aspect-ratio: {width} / {height}; height: auto; border: 0",
        role="whole",
        src=address,
        title=title.strip(),
        width=str(width) if styles is not Styles.NONE else "100%",
        height=str(height),
        loading="lazy",
        **extra,
    )
    build.notes.append(f"The editor has to allow frames from {host_of(address)}; verse-tray check tells which do.")
    return build.made(frame)
