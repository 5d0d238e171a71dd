"""Pictures: linked, in a slider, or one that gives way to another."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from verse_tray.make.builder import Builder, Made, Styles, checked_address, link_target
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.errors import InputError

Align = Literal["left", "right", "centre", "none"]


class Picture(Struct, frozen=True):
    """A picture to be shown."""

    address: str
    """Its address."""
    alt: str
    """Its alternative text: what it shows; empty only for one that decorates."""
    width: int | None = None
    """Width in CSS pixels."""
    height: int | None = None
    """Height in CSS pixels."""
    caption: str = ""
    """Words below it."""
    link: str = ""
    """Where a click on it leads."""


def _img(build: Builder, picture: Picture, look: str, role: str) -> Element:
    if not picture.alt.strip() and picture.alt != "":
        raise InputError(f"{picture.address}: its alternative text is only white space. Say what the picture shows.")
    return build.element(
        "img",
        look=look,
        role=role,
        src=checked_address(picture.address, "picture"),
        alt=picture.alt,
        width=None if picture.width is None else str(picture.width),
        height=None if picture.height is None else str(picture.height),
    )


def _linked(build: Builder, picture: Picture, img: Element, *, new_window: bool) -> Node:
    if not picture.link:
        return img
    if not picture.alt:
        build.notes.append(
            "The picture is all that the link holds, so its alternative text has to say where it leads: give --alt."
        )
    made = build.element("a", img, href=checked_address(picture.link, "link"))
    made.attributes.update(link_target(new_window))
    return made


def make_picture(picture: Picture, styles: Styles, *, align: Align, new_window: bool, name: str | None = None) -> Made:
    """Make a picture, with a link, a caption and a place among the text as asked for.

    Raises:
        InputError: an address is missing or would run code.
    """
    build = Builder("picture", styles, (picture, align), name=name)
    img = _img(build, picture, "max-width: 100%; height: auto; display: block", "image")
    inner = _linked(build, picture, img, new_window=new_window)
    width = f"; width: {picture.width}px" if picture.width is not None else ""
    place = {
        "left": f"float: left; margin: 0 20px 12px 0; max-width: 50%{width}",
        "right": f"float: right; margin: 0 0 12px 20px; max-width: 50%{width}",
        "centre": f"margin: 16px auto; max-width: 100%{width}",
        "none": f"margin: 16px 0; max-width: 100%{width}",
    }[align]
    caption = [build.element("figcaption", picture.caption, look="margin-top: 6px; font-size: 14px", role="caption")]
    return build.made(build.element("figure", inner, *(caption if picture.caption else []), look=place, role="whole"))


def make_slider(
    pictures: list[Picture],
    styles: Styles,
    *,
    label: str,
    width: int,
    height: int,
    script: bool,
    name: str | None = None,
) -> Made:
    """Make a row of pictures that readers move through: by touch, wheel, keys and, with a script, two buttons.

    Without a script it works all the same: the browser's own scrolling stops at each picture.

    Raises:
        InputError: there are fewer than two pictures, or an address is missing.
    """
    if len(pictures) < 2:
        raise InputError("a slider needs at least two pictures.")
    build = Builder("slider", styles, (pictures, width, height), name=name)
    slides: list[Node] = []
    for number, picture in enumerate(pictures, 1):
        sized = Picture(picture.address, picture.alt, width, height, picture.caption, picture.link)
        img = _img(build, sized, "width: 100%; height: auto; display: block", "image")
        parts: list[Node] = [_linked(build, picture, img, new_window=False)]
        if picture.caption:
            parts.append(build.element("figcaption", picture.caption, look="padding: 8px 4px", role="caption"))
        label_ = f"{number} of {len(pictures)}"
        look = "flex: 0 0 100%; scroll-snap-align: start; margin: 0"
        slides.append(build.element("figure", *parts, look=look, role="slide", role_="group", aria_label=label_))
    look = "display: flex; overflow-x: auto; scroll-snap-type: x mandatory"
    track = build.element(
        "div",
        *slides,
        look=look,
        role="track",
        tabindex="0",
        role_="region",
        aria_label=label,
        id=f"{build.name}-track",
    )
    build.rule("&track", "scroll-behavior: smooth", "@media (prefers-reduced-motion: no-preference)")
    parts = [track]
    if script:
        button = "padding: 8px 14px; margin: 8px 8px 0 0; cursor: pointer"
        for text, attribute in (("Back", "data-back"), ("Next", "data-next")):
            made = build.element(
                "button", text, look=button, role="button", type="button", aria_controls=f"{build.name}-track"
            )
            made.attributes[attribute] = ""
            parts += [made, Text("\n")]
        build.script(
            f'  const slider = document.getElementById("{build.name}");\n'
            f'  const track = document.getElementById("{build.name}-track");\n'
            "  const move = (steps) => track.scrollBy({ left: steps * track.clientWidth });\n"
            '  slider.querySelector("[data-back]").addEventListener("click", () => move(-1));\n'
            '  slider.querySelector("[data-next]").addEventListener("click", () => move(1));'
        )
    return build.made(build.element("div", *parts, look=f"max-width: {width}px", role="whole", id=build.name))


def make_swap(first: Picture, second: Picture, styles: Styles, *, script: bool, name: str | None = None) -> Made:
    """Make a picture that gives way to another on a click, or on the Enter key, and back.

    Without a script it is a disclosure: the second picture takes the first one's place where styles can hide that;
    else it opens below.

    Raises:
        InputError: an address is missing or would run code.
    """
    build = Builder("swap", styles, (first, second), name=name)
    look = "max-width: 100%; height: auto; display: block"
    if script:
        images = [_img(build, first, look, "image"), _img(build, second, look, "image")]
        images[1].attributes["hidden"] = ""
        button = "padding: 0; border: 0; background: none; cursor: pointer"
        whole = build.element("button", *images, look=button, role="whole", type="button", id=build.name)
        build.rule("&whole [hidden]", "display: none")
        build.script(
            f'  const swap = document.getElementById("{build.name}");\n'
            '  swap.addEventListener("click", () => {\n'
            "    for (const picture of swap.children) picture.hidden = !picture.hidden;\n"
            "  });"
        )
        if build.styles is Styles.INLINE:
            images[1].attributes["style"] = "max-width: 100%; height: auto"  # a display of its own would undo hidden
            images[0].attributes["style"] = "max-width: 100%; height: auto"
        return build.made(whole)
    summary = build.element(
        "summary", _img(build, first, look, "image"), look="cursor: pointer; list-style: none", role="first"
    )
    build.rule("&whole[open] &first &image", "display: none")
    build.rule("&whole[open] &first::after", 'content: "Back to the first picture"')
    return build.made(
        build.element("details", summary, _img(build, second, look, "image"), role="whole", look="margin: 16px 0")
    )
