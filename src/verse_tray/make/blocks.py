"""A button-like link, a row of cards, a list with a chosen space, a sign-off."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.make.builder import Builder, Child, Made, Styles, checked_address, link_target
from verse_tray.markup.tree import Node
from verse_tray.model.errors import InputError
from verse_tray.style.colours import Colour, contrast, parse_colour

_WHITE, _BLACK = Colour(1, 1, 1), Colour(0, 0, 0)
_READABLE = 4.5  # WCAG 2.2, 1.4.3


def text_on(ground: str, what: str) -> str:
    """Return the colour, black or white, in which text is read best on a ground.

    Raises:
        InputError: the ground is no colour.
    """
    colour = parse_colour(ground)
    if colour is None:
        raise InputError(f"{what} {ground}: this is no colour. Write one such as #2f6f73, rgb(47, 111, 115) or teal.")
    return "#fff" if contrast(colour, _WHITE) >= min(_READABLE, contrast(colour, _BLACK)) else "#000"


def make_button(
    text: str,
    address: str,
    styles: Styles,
    *,
    colour: str,
    new_window: bool,
    outline: bool = False,
    name: str | None = None,
) -> Made:
    """Make a link that looks like a button: filled, or an ``outline`` for editors that take backgrounds away.

    Raises:
        InputError: there is no text or address, or the colour is none.
    """
    if not text.strip():
        raise InputError("a button needs words that say what it does.")
    build = Builder("button", styles, (text, address, colour), name=name)
    on = text_on(colour, "--colour")
    filled = f"background: {colour}; color: {on}" if not outline else f"border: 2px solid {colour}; color: {colour}"
    look = f"display: inline-block; padding: 10px 18px; border-radius: 6px; {filled}; text-decoration: none"
    build.rule("&whole:hover", "text-decoration: underline")
    build.rule("&whole:focus-visible", f"outline: 3px solid {colour}; outline-offset: 3px")
    link = build.element("a", text.strip(), look=look, role="whole", href=checked_address(address, "button"))
    link.attributes.update(link_target(new_window))
    return build.made(link)


class Card(Struct, frozen=True):
    """A card."""

    title: str
    """Its heading."""
    text: str = ""
    """Its words."""
    icon: str = ""
    """A sign, or the address of a small picture; it only decorates."""
    link: str = ""
    """Where its heading leads."""


def make_cards(cards: list[Card], styles: Styles, *, colour: str, level: int, name: str | None = None) -> Made:
    """Make a row of cards that become a column on narrow screens, without a condition: they wrap by their width.

    Raises:
        InputError: there are no cards, one has no title, or the colour is none.
    """
    if not cards:
        raise InputError("a row of cards needs at least one card.")
    text_on(colour, "--colour")
    build = Builder("cards", styles, (cards, colour), name=name)
    items: list[Node] = []
    for number, card in enumerate(cards, 1):
        if not card.title.strip():
            raise InputError(f"card {number} has no title. Give each a title, a text and, if you like, an icon.")
        parts: list[Node] = []
        if card.icon:
            parts.append(_icon(build, card.icon))
        title: Child = card.title
        if card.link:
            title = build.element("a", card.title, href=checked_address(card.link, f"card {number}"))
        parts.append(build.element(f"h{level}", title, look="margin: 8px 0; font-size: 18px", role="title"))
        if card.text:
            parts.append(build.element("p", card.text, look="margin: 0", role="text"))
        look = f"flex: 1 1 200px; padding: 16px; border: 1px solid {colour}; border-radius: 8px"
        items.append(build.element("div", *parts, look=look, role="card"))
    return build.made(
        build.element("div", *items, look="display: flex; flex-wrap: wrap; gap: 16px; margin: 16px 0", role="whole")
    )


def _icon(build: Builder, icon: str) -> Node:
    if re.match(r"(?:https?:)?//|data:image/|[\w./-]+\.(?:png|svg|jpe?g|gif|webp)$", icon, re.IGNORECASE):
        address = checked_address(icon, "icon")
        return build.element("img", src=address, alt="", width="40", height="40", look="display: block", role="icon")
    return build.element("div", icon, look="font-size: 32px; line-height: 1.2", role="icon", aria_hidden="true")


def make_list(items: list[str], styles: Styles, *, space: str, numbered: bool, name: str | None = None) -> Made:
    """Make a list with a chosen space between its items.

    Raises:
        InputError: there are no items, or the space is no length.
    """
    if not [item for item in items if item.strip()]:
        raise InputError("a list needs at least one item.")
    if not re.fullmatch(r"\d*\.?\d+(?:px|em|rem|ch|ex|vh|%)|0", space):
        raise InputError(f"--space {space}: expected a length with its unit, such as 8px or 0.5em.")
    build = Builder("list", styles, (items, space), name=name)
    entries = [
        build.element("li", item.strip(), look=f"margin-bottom: {space}", role="item") for item in items if item.strip()
    ]
    return build.made(build.element("ol" if numbered else "ul", *entries, role="whole", look="padding-left: 1.4em"))


class SignOff(Struct, frozen=True):
    """Who signs."""

    name: str
    """The name."""
    role: str = ""
    """What the person does."""
    picture: str = ""
    """Address of a picture."""
    contacts: tuple[str, ...] = ()
    """Mail addresses, telephone numbers, web addresses."""


def make_signoff(person: SignOff, *, colour: str) -> Made:
    """Make a sign-off for mail and invoices: a table without classes, since mail programs keep little else.

    Raises:
        InputError: there is no name, or the colour is none.
    """
    if not person.name.strip():
        raise InputError("a sign-off needs a name. Give that of who signs.")
    text_on(colour, "--colour")
    build = Builder("sign-off", Styles.INLINE, person)
    lines: list[Child] = [build.element("b", person.name)]
    if person.role:
        lines += [build.element("br"), person.role]
    for number, contact in enumerate(person.contacts):
        lines.append(build.element("br") if number == 0 else " · ")
        lines.append(build.element("a", contact, href=_contact(contact), look=f"color: {colour}", role="contact"))
    cells: list[Node] = []
    if person.picture:
        address = checked_address(person.picture, "--picture")
        img = build.element("img", src=address, alt="", width="72", height="72", look="display: block", role="picture")
        look = f"padding-right: 14px; border-right: 2px solid {colour}"
        cells.append(build.element("td", img, look=look, role="left"))
    cells.append(build.element("td", *lines, look="padding-left: 14px" if person.picture else "", role="right"))
    table = build.element(
        "table",
        build.element("tbody", build.element("tr", *cells)),
        role_="presentation",
        cellpadding="0",
        cellspacing="0",
        border="0",
        look="font-family: Verdana, sans-serif; font-size: 13px; color: #24302c",
        role="whole",
    )
    return build.made(table)


def _contact(contact: str) -> str:
    if re.fullmatch(r"[\w.+-]+@[\w.-]+\.\w+", contact):
        return f"mailto:{contact}"
    if re.fullmatch(r"\+?[\d\s()/.-]{5,}", contact):
        return "tel:" + re.sub(r"[^\d+]", "", contact)
    return contact if re.match(r"https?://", contact) else checked_address(f"https://{contact}", "--contact")
