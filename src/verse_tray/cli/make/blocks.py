"""``verse-tray make button``, ``cards``, ``list`` and ``sign-off``."""

from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.make.shared import (
    ColourOption,
    CssOption,
    ForOption,
    NameOption,
    OutOption,
    StylesChoice,
    StylesOption,
    WindowOption,
)

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.terms import Terms


def make_button(
    text: Annotated[str, typer.Argument(metavar="TEXT", help="Its words.")],
    address: Annotated[str, typer.Argument(metavar="ADDRESS", help="Where it leads.")],
    colour: ColourOption = "#2f6f73",
    new_window: WindowOption = False,
    outline: Annotated[
        bool | None,
        typer.Option("--outline/--filled", help="Only a line around it: for editors that take backgrounds away."),
    ] = None,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a link that looks like a button; its words are black or white, whichever is read better on its colour.

    \b
    Example:
      verse-tray make button "Book a place" https://example.org/walks --colour "#a14a12"
    """
    from functools import partial

    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import blocks

    build = partial(blocks.make_button, text, address, colour=colour, new_window=new_window, name=name)
    form = None if outline is None else "outline" if outline else "filled"
    make(blocks.BUTTON_FORMS, lambda form, terms: build(terms, form=form), Wanted(styles, for_, css, out), form)


def make_cards(
    data: Annotated[
        str | None, typer.Argument(metavar="[DATA]", help="CSV or JSON with the columns title, text, icon, link.")
    ] = None,
    card: Annotated[
        list[str] | None, typer.Option("--card", metavar="TITLE|TEXT|ICON|LINK", help="A card; may be repeated.")
    ] = None,
    level: Annotated[int, typer.Option("--level", min=2, max=6, help="Level of the headings.")] = 3,
    colour: ColourOption = "#2f6f73",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a row of cards, each with an icon, a title and a text; on a phone they stand below one another.

    \b
    Examples:
      verse-tray make cards walks.csv --for blog-post
      verse-tray make cards --card "Wear boots|The rocks are slippery.|🥾" --card "Bring a lamp|It is dark.|🔦"
    """
    from functools import partial

    from verse_tray.cli.make.columns import need
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import blocks
    from verse_tray.tabular.records import read_records
    from verse_tray.tasks.files import read_text

    cards = [blocks.Card(*[part.strip() for part in each.split("|")][:4]) for each in card or []]
    if data is not None:
        records = read_records(read_text(data), data)
        need(records, ("title",), ("text", "icon", "link"))
        cards += [
            blocks.Card(row["title"], row.get("text", ""), row.get("icon", ""), row.get("link", ""))
            for row in records.rows
        ]
    build = partial(blocks.make_cards, cards, colour=colour, level=level, name=name)
    make(blocks.CARD_FORMS, lambda form, terms: build(terms, form=form), Wanted(styles, for_, css, out))


def make_list(
    items: Annotated[
        list[str], typer.Argument(metavar="ITEM...", help="Its items; - reads them from standard input, a line each.")
    ],
    space: Annotated[str, typer.Option("--space", help="Space between them, with its unit.")] = "8px",
    numbered: Annotated[bool, typer.Option("--numbered", help="Number them.")] = False,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a list with a chosen space between its items.

    \b
    Example:
      verse-tray make list "Wear boots" "Bring a lamp" "Tell somebody where you are" --space 12px
    """
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.cli.screen import note
    from verse_tray.make import blocks
    from verse_tray.tasks.files import read_text

    if items == ["-"]:
        listed = blocks.listed_items(read_text("-"))
        items, numbered = listed.items, numbered or listed.numbered
        for each in listed.notes:
            note(each)

    def build(form: str, terms: "Terms") -> "Made":
        return blocks.make_list(items, terms, space=space, numbered=numbered, form=form, name=name)

    make(blocks.LIST_FORMS, build, Wanted(styles, for_, css, out))


def make_signoff(
    person: Annotated[str, typer.Argument(metavar="NAME", help="Who signs.")],
    role: Annotated[str, typer.Option("--role", help="What the person does.")] = "",
    picture: Annotated[
        str, typer.Option("--picture", metavar="ADDRESS", help="Address of a picture, or its file, for its size.")
    ] = "",
    picture_alt: Annotated[str, typer.Option("--picture-alt", help="What the picture shows.")] = "",
    picture_width: Annotated[
        int, typer.Option("--picture-width", min=16, max=600, metavar="PIXELS", help="Width of the picture.")
    ] = 72,
    link: Annotated[str, typer.Option("--link", metavar="ADDRESS", help="Where the picture leads.")] = "",
    contact: Annotated[
        list[str] | None,
        typer.Option(
            "--contact", help="A mail address, a telephone number, a web address, opening hours; may be repeated."
        ),
    ] = None,
    colour: ColourOption = "#1f6f73",
    for_: ForOption = None,
    out: OutOption = None,
) -> None:
    """Make a sign-off for mail and invoices, with its look inside: mail programs keep little else.

    \b
    Example:
      verse-tray make sign-off "Maren Tidewell" --role "Counts and volunteers" --contact counts@gannetcove.example
    """
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import blocks
    from verse_tray.tasks.make import size_of_picture

    width, height = size_of_picture(picture, picture_width)
    signs = blocks.SignOff(person, role, picture, tuple(contact or ()), picture_alt, link, width, height)

    def build(form: str, terms: "Terms") -> "Made":
        return blocks.make_signoff(signs, colour=colour, styles=terms, form=form)

    make(blocks.SIGN_OFF_FORMS, build, Wanted(StylesChoice.INLINE, for_, None, out))


COMMANDS = {"button": make_button, "cards": make_cards, "list": make_list, "sign-off": make_signoff}
