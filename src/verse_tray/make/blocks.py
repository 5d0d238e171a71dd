"""A button-like link, a row of cards, a list with a chosen space, a sign-off."""

from __future__ import annotations

import re

from msgspec import Struct

from verse_tray.make.builder import Builder, Child, Made, Styles, Terms, link_target
from verse_tray.make.survive import form as form_
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.tree import Node
from verse_tray.model.errors import InputError
from verse_tray.model.phrasing import counted
from verse_tray.piece.meant_address import meant_contact
from verse_tray.style.colours import Colour, contrast, parse_colour

BUTTON_FORMS = (
    form_("filled", "filled", "property:background", "property:color", "property:display"),
    form_("outline", "a line around its words", "property:border", "property:display"),
    form_("bold", "a bold link"),
)
CARD_FORMS = (
    form_("row", "a row", "property:display", "property:flex"),
    form_("table", "a table of one row", "tag:table", "tag:tr", "tag:td"),
    form_("stack", "one card below another"),
)
SIGN_OFF_FORMS = (form_("table", "a table", "tag:table", "tag:td"), form_("lines", "lines"))
LIST_FORMS = (form_("list", "a list"),)
"""The forms of each piece, the best first."""
_MOST_IN_A_TABLE = 4
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
    styles: Styles | Terms,
    *,
    colour: str,
    new_window: bool,
    form: str = "filled",
    name: str | None = None,
) -> Made:
    """Make a link that looks like a button.

    Args:
        text: Its words.
        address: Where it leads.
        styles: Where its look goes.
        colour: Its colour; its words are black or white, whichever is read better on it.
        new_window: Whether it opens a new window.
        form: ``filled``, ``outline`` for editors that take backgrounds away, or ``bold``: a link in bold.
        name: What its classes begin with.

    Raises:
        InputError: there is no text or address, or the colour is none.
    """
    if not text.strip():
        raise InputError("a button needs words that say what it does.")
    build = Builder("button", styles, (text, address, colour), name=name)
    on = text_on(colour, "--colour")
    to = build.address(address, "button")
    if form == "bold":
        link = build.element("a", build.element("b", text.strip()), href=to)
        build.add(link, **link_target(new_window))
        return build.made(build.element("p", link))
    outline = f"border: 2px solid {colour}; color: {colour}"
    filled = f"background: {colour}; color: {on}" if form == "filled" else outline
    look = f"display: inline-block; padding: 10px 18px; border-radius: 6px; {filled}; text-decoration: none"
    build.rule("&whole:hover", "text-decoration: underline")
    build.rule("&whole:focus-visible", f"outline: 3px solid {colour}; outline-offset: 3px")
    link = build.element("a", text.strip(), look=look, role="whole", href=to)
    build.add(link, **link_target(new_window))
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


def make_cards(
    cards: list[Card], styles: Styles | Terms, *, colour: str, level: int, form: str = "row", name: str | None = None
) -> Made:
    """Make a row of cards that become a column on narrow screens, without a condition: they wrap by their width.

    Args:
        cards: The cards.
        styles: Where their look goes.
        colour: Colour of their borders.
        level: Level of their headings.
        form: ``row``, ``table`` of one row for editors that keep little else, or ``stack``.
        name: What its classes begin with.

    Raises:
        InputError: there are no cards, one has no title, or the colour is none.
    """
    if not cards:
        raise InputError("a row of cards needs at least one card.")
    text_on(colour, "--colour")
    build = Builder("cards", styles, (cards, colour), name=name)
    if form == "table" and len(cards) > _MOST_IN_A_TABLE:
        form = "stack"
    tag = "td" if form == "table" else "div"
    items: list[Node] = []
    for number, card in enumerate(cards, 1):
        if not card.title.strip():
            raise InputError(f"card {number} has no title. Give each a title, a text and, if you like, an icon.")
        parts: list[Node] = []
        if card.icon and not (max(card.icon) > "\uffff" and build.terms.lacks("sign", "", "")):
            parts.append(_icon(build, card.icon))
        title: Child = card.title
        if card.link:
            title = build.element("a", card.title, href=build.address(card.link, f"card {number}"))
        parts.append(build.element(f"h{level}", title, look="margin: 8px 0; font-size: 18px", role="title"))
        if card.text:
            parts.append(build.element("p", card.text, look="margin: 0", role="text"))
        place = {"row": "flex: 1 1 200px; ", "table": "vertical-align: top; ", "stack": "margin: 0 0 16px; "}[form]
        look = f"{place}padding: 16px; border: 1px solid {colour}; border-radius: 8px"
        items.append(build.element(tag, *parts, look=look, role="card"))
    if form == "table":
        rows = build.element("tbody", build.element("tr", *items))
        look = "border-collapse: collapse; width: 100%"
        return build.made(build.element("table", rows, look=look, role="whole", role_="presentation"))
    look = "display: flex; flex-wrap: wrap; gap: 16px; margin: 16px 0" if form == "row" else "margin: 16px 0"
    return build.made(build.element("div", *items, look=look, role="whole"))


def _icon(build: Builder, icon: str) -> Node:
    if re.match(r"(?:https?:)?//|data:image/|[\w./-]+\.(?:png|svg|jpe?g|gif|webp)$", icon, re.IGNORECASE):
        address = build.address(icon, "icon", picture=True)
        return build.element("img", src=address, alt="", width="40", height="40", look="display: block", role="icon")
    return build.element("div", icon, look="font-size: 32px; line-height: 1.2", role="icon", aria_hidden="true")


class ListedItems(Struct, frozen=True):
    """Items of a list, as somebody wrote them line by line."""

    items: list[str]
    """The items, without bullets and numbers."""
    numbered: bool
    """Whether all of them were numbered."""
    notes: tuple[str, ...]
    """What was taken off or left out."""


_BULLET = re.compile(r"\s*(?:[-*•–·]|(\d{1,3})[.)])\s+")


def listed_items(text: str) -> ListedItems:
    """Return the items of a text with one a line; bullets and numbers in front of every line are taken off."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    found = [_BULLET.match(line) for line in lines]
    if not lines or not all(found):
        tags = sum(line.startswith("<") and line.endswith(">") for line in lines)
        told = f"{counted(tags, 'line')} of tags became text: give the words alone." if tags else ""
        return ListedItems(lines, False, (told,) if told else ())
    items = [line[match.end() :] for line, match in zip(lines, found, strict=True) if match is not None]
    numbered = all(match is not None and match[1] for match in found)
    return ListedItems(items, numbered, (f"The {'numbers' if numbered else 'bullets'} in front were taken off.",))


def make_list(
    items: list[str], styles: Styles | Terms, *, space: str, numbered: bool, form: str = "list", name: str | None = None
) -> Made:
    """Make a list with a chosen space between its items.

    Raises:
        InputError: there are no items, or the space is no length.
    """
    if not [item for item in items if item.strip()]:
        raise InputError("a list needs at least one item.")
    if not re.fullmatch(r"\d*\.?\d+(?:px|em|rem|ch|ex|vh|%)|0", space):
        raise InputError(f"--space {space}: expected a length with its unit, such as 8px or 0.5em.")
    build = Builder("list", styles, (items, space, form), name=name)
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
    """Mail addresses, telephone numbers, web addresses, opening hours: one a line."""
    alt: str = ""
    """What the picture shows; empty where it only decorates."""
    link: str = ""
    """Where the picture leads."""
    width: int = 72
    """Width of the picture in CSS pixels."""
    height: int = 72
    """Its height."""


def make_signoff(person: SignOff, *, colour: str, styles: Styles | Terms = Styles.INLINE, form: str = "table") -> Made:
    """Make a sign-off for mail and invoices: a table without classes, since mail programs keep little else.

    Raises:
        InputError: there is no name, an address is none, or the colour is none.
    """
    if not person.name.strip():
        raise InputError("a sign-off needs a name. Give that of who signs.")
    text_on(colour, "--colour")
    build = Builder("sign-off", styles, person)
    lines: list[Child] = [build.element("b", person.name)]
    if person.role:
        lines += [build.element("br"), person.role]
    for contact in person.contacts:
        to = meant_contact(contact)
        said = contact.strip()
        part = f"contact-{scheme_of(to or '')}"
        shown: Child = said
        if to is not None and not build.terms.lacks("attribute", part, "href"):
            shown = build.element("a", said, href=to, look=f"color: {colour}", role=part)
        lines += [build.element("br"), shown]
    picture: Node | None = None
    if person.picture and not build.terms.lacks("tag", "picture", "img"):
        picture = build.element(
            "img",
            src=build.address(person.picture, "--picture", picture=True),
            alt=person.alt,
            width=str(person.width),
            height=str(person.height),
            look="display: block",
            role="picture",
        )
        if person.link:
            if not person.alt:
                raise InputError("--link: the picture leads somewhere, so say where with --picture-alt.")
            picture = build.element("a", picture, href=build.address(person.link, "--link"))
    if form == "lines":
        return build.made(build.element("p", *([picture, build.element("br")] if picture else []), *lines))
    cells: list[Node] = []
    if picture is not None:
        look = f"padding-right: 14px; border-right: 2px solid {colour}"
        cells.append(build.element("td", picture, look=look, role="left"))
    cells.append(build.element("td", *lines, look="padding-left: 14px" if picture is not None else "", role="right"))
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
