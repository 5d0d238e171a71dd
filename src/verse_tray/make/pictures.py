"""Pictures: linked, in a slider, or one that gives way to another."""

from __future__ import annotations

from enum import StrEnum

from msgspec import Struct

from verse_tray.make.builder import Builder, Made, Styles, Terms, link_target
from verse_tray.make.survive import Form
from verse_tray.make.survive import form as form_
from verse_tray.make.words import WORDS, Words
from verse_tray.markup.tree import Element, Node, Text
from verse_tray.model.errors import InputError
from verse_tray.piece.encoding import in_style_string


class Place(StrEnum):
    """Where a picture stands."""

    LEFT = "left"
    RIGHT = "right"
    CENTRE = "centre"
    NONE = "none"


_ALONE = form_("plain", "in a line of its own", "tag:img")
_LINK = form_("link", "a link to the picture")
PLACED_FORMS = (
    form_("styled", "placed by its styles", "tag:img", "property:float"),
    form_("attribute", "placed by an attribute", "tag:img", "attribute:align"),
    _ALONE,
    _LINK,
)
CENTRED_FORMS = (
    form_("styled", "in the middle by its styles", "tag:img", "property:text-align"),
    form_("attribute", "in the middle by an attribute", "tag:img", "attribute:align"),
    _ALONE,
    _LINK,
)
PLAIN_FORMS = (_ALONE, _LINK)
_MOVES = ("tag:img", "property:display", "property:overflow-x", "property:flex")
SLIDER_FORMS = (
    form_("buttons", "moved by buttons", *_MOVES, "script:", "attribute:id"),
    form_("scroll", "moved without buttons", *_MOVES),
    form_("stack", "one picture below another", "tag:img"),
    form_("link", "links to the pictures"),
)
SWAP_FORMS = (
    form_("script", "changed by a script", "tag:img", "script:", "tag:button", "attribute:id", "attribute:type"),
    form_("details", "opened and closed without a script", "tag:img", "tag:details", "tag:summary"),
    form_("stack", "both pictures, one below the other", "tag:img"),
    form_("link", "links to the pictures"),
)
"""The forms of each piece, the best first."""


def forms_of_picture(align: str) -> tuple[Form, ...]:
    """Return the forms of a picture with a place among the text."""
    return {"left": PLACED_FORMS, "right": PLACED_FORMS, "centre": CENTRED_FORMS}.get(align, PLAIN_FORMS)


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
        src=build.address(picture.address, "picture", picture=True),
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
    made = build.element("a", img, href=build.address(picture.link, "link"))
    build.add(made, **link_target(new_window))
    return made


def _as_link(build: Builder, picture: Picture) -> Node:
    """Return a link to a picture, for editors that keep none."""
    said = picture.caption or picture.alt or picture.address.rpartition("/")[2]
    to = build.address(picture.link or picture.address, "link" if picture.link else "picture", picture=not picture.link)
    return build.element("a", said, href=to)


def make_picture(
    picture: Picture,
    styles: Styles | Terms,
    *,
    align: Place | str,
    new_window: bool,
    form: str = "styled",
    name: str | None = None,
) -> Made:
    """Make a picture, with a link, a caption and a place among the text as asked for.

    Args:
        picture: The picture.
        styles: Where its look goes.
        align: Where it stands.
        new_window: Whether its link opens a new window.
        form: ``styled``; ``attribute`` for editors that keep attributes, and no styles; ``plain``; ``link``.
        name: What its classes begin with.

    Raises:
        InputError: an address is missing or would run code.
    """
    build = Builder("picture", styles, (picture, align), name=name)
    if form == "link":
        return build.made(build.element("p", _as_link(build, picture)))
    centred = align == "centre" and form == "styled"
    img = _img(build, picture, f"max-width: 100%; height: auto{'' if centred else '; display: block'}", "image")
    if form == "attribute" and align in ("left", "right"):
        build.add(img, align=align)
    inner = _linked(build, picture, img, new_window=new_window)
    width = f"; width: {picture.width}px" if picture.width is not None else ""
    place = {
        "left": f"float: left; margin: 0 20px 12px 0; max-width: 50%{width}",
        "right": f"float: right; margin: 0 0 12px 20px; max-width: 50%{width}",
        "centre": "margin: 16px 0; text-align: center; max-width: 100%",
        "none": f"margin: 16px 0; max-width: 100%{width}",
    }[align if form == "styled" else "none"]
    caption = [build.element("figcaption", picture.caption, look="margin-top: 6px; font-size: 14px", role="caption")]
    parts = [inner, *(caption if picture.caption else [])]
    if form == "attribute" and align == "centre":
        return build.made(build.element("div", *parts, look=place, role="whole", align="center"))
    return build.made(build.element("figure", *parts, look=place, role="whole"))


def make_slider(
    pictures: list[Picture],
    styles: Styles | Terms,
    *,
    label: str,
    width: int,
    height: int,
    form: str = "scroll",
    words: Words = WORDS["en"],
    name: str | None = None,
) -> Made:
    """Make a row of pictures that readers move through: by touch, wheel, keys and, with a script, two buttons.

    Without a script it works all the same: the browser's own scrolling stops at each picture.

    Args:
        pictures: The pictures.
        styles: Where its look goes.
        label: What the row is, for screen readers.
        width: Width of each in CSS pixels.
        height: Height of each.
        form: ``buttons`` with a script; ``scroll``; ``stack``, one below another; ``link``.
        words: The words on its buttons and in its labels.
        name: What its classes begin with.

    Raises:
        InputError: there are fewer than two pictures, or an address is missing.
    """
    if len(pictures) < 2:
        raise InputError("a slider needs at least two pictures.")
    build = Builder("slider", styles, (pictures, width, height), name=name)
    if form == "link":
        items = [build.element("li", _as_link(build, each)) for each in pictures]
        return build.made(build.element("ul", *items))
    slides: list[Node] = []
    for number, picture in enumerate(pictures, 1):
        sized = Picture(picture.address, picture.alt, width, height, picture.caption, picture.link)
        img = _img(build, sized, "width: 100%; height: auto; display: block", "image")
        parts: list[Node] = [_linked(build, picture, img, new_window=False)]
        if picture.caption:
            parts.append(build.element("figcaption", picture.caption, look="padding: 8px 4px", role="caption"))
        if form == "stack":
            slides.append(build.element("figure", *parts, look="margin: 0 0 16px", role="slide"))
            continue
        label_ = f"{number} {words.of} {len(pictures)}"
        look = "flex: 0 0 100%; scroll-snap-align: start; margin: 0"
        slides.append(build.element("figure", *parts, look=look, role="slide", role_="group", aria_label=label_))
    if form == "stack":
        return build.made(build.element("div", *slides, look=f"max-width: {width}px", role="whole"))
    track = build.element(
        "div",
        *slides,
        look="display: flex; overflow-x: auto; scroll-snap-type: x mandatory",
        role="track",
        tabindex="0",
        role_="region",
        aria_label=label,
        id=f"{build.name}-track",
    )
    build.rule("&track", "scroll-behavior: smooth", "@media (prefers-reduced-motion: no-preference)")
    parts = [track]
    if form == "buttons":
        parts += _buttons(build, words)
    return build.made(build.element("div", *parts, look=f"max-width: {width}px", role="whole", id=build.name))


def _buttons(build: Builder, words: Words) -> list[Node]:
    """Return the buttons of a slider, and give it the script that they need."""
    parts: list[Node] = []
    look = "padding: 8px 14px; margin: 8px 8px 0 0; cursor: pointer"
    for text, attribute in ((words.back, "data-back"), (words.next, "data-next")):
        made = build.element(
            "button", text, look=look, role="button", type="button", aria_controls=f"{build.name}-track"
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
    return parts


def make_swap(
    first: Picture,
    second: Picture,
    styles: Styles | Terms,
    *,
    form: str = "details",
    words: Words = WORDS["en"],
    name: str | None = None,
) -> Made:
    """Make a picture that gives way to another on a click, or on the Enter key, and back.

    Without a script it is a disclosure: the second picture takes the first one's place where styles can hide that;
    else it opens below.

    Args:
        first: The picture that shows at first.
        second: The one that takes its place.
        styles: Where its look goes.
        form: ``script``; ``details``; ``stack``, both below one another; ``link``.
        words: What brings the first picture back.
        name: What its classes begin with.

    Raises:
        InputError: an address is missing or would run code.
    """
    build = Builder("swap", styles, (first, second), name=name)
    look = "max-width: 100%; height: auto; display: block"
    if form == "link":
        return build.made(*(build.element("p", _as_link(build, each)) for each in (first, second)))
    if form == "stack":
        pair = [_img(build, each, look, "image") for each in (first, second)]
        return build.made(*(build.element("p", img) for img in pair))
    if form == "script":
        # the script sets the display itself: else a site's own for pictures would undo that one of them is hidden
        images = [_img(build, each, "max-width: 100%; height: auto", "image") for each in (first, second)]
        build.add(images[1], hidden="")
        button = "padding: 0; border: 0; background: none; cursor: pointer"
        whole = build.element("button", *images, look=button, role="whole", type="button", id=build.name)
        build.script(
            f'  const swap = document.getElementById("{build.name}");\n'
            "  const show = (changed) => {\n"
            "    for (const picture of swap.children) {\n"
            "      if (changed) picture.hidden = !picture.hidden;\n"
            '      picture.style.display = picture.hidden ? "none" : "";\n'
            "    }\n"
            "  };\n"
            '  swap.addEventListener("click", () => show(true));\n'
            "  show(false);"
        )
        return build.made(whole)
    summary = build.element(
        "summary", _img(build, first, look, "image"), look="cursor: pointer; list-style: none", role="first"
    )
    build.rule("&whole[open] &first &image", "display: none")
    build.rule("&whole[open] &first::after", f'content: "{in_style_string(words.first)}"')
    return build.made(
        build.element("details", summary, _img(build, second, look, "image"), role="whole", look="margin: 16px 0")
    )
