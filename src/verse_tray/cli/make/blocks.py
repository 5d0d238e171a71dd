"""``verse-tray make button``, ``cards``, ``list`` and ``sign-off``."""

from __future__ import annotations

from typing import Annotated

import typer

from verse_tray.cli.make.shared import (
    ColourOption,
    CssOption,
    ForOption,
    NameOption,
    OutOption,
    StylesOption,
    WindowOption,
)


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
    from verse_tray.cli.make.shared import background_kept, chosen_styles, deliver
    from verse_tray.make import blocks

    chosen = chosen_styles(styles, for_, css)
    outlined = outline if outline is not None else not background_kept(for_)
    made = blocks.make_button(text, address, chosen, colour=colour, new_window=new_window, outline=outlined, name=name)
    deliver(made, css, out)


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
    from verse_tray.cli.make.columns import need
    from verse_tray.cli.make.shared import chosen_styles, deliver
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
    made = blocks.make_cards(cards, chosen_styles(styles, for_, css), colour=colour, level=level, name=name)
    deliver(made, css, out)


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
    from verse_tray.cli.make.shared import chosen_styles, deliver
    from verse_tray.make import blocks
    from verse_tray.tasks.files import read_text

    if items == ["-"]:
        items = read_text("-").splitlines()
    deliver(
        blocks.make_list(items, chosen_styles(styles, for_, css), space=space, numbered=numbered, name=name), css, out
    )


def make_signoff(
    person: Annotated[str, typer.Argument(metavar="NAME", help="Who signs.")],
    role: Annotated[str, typer.Option("--role", help="What the person does.")] = "",
    picture: Annotated[str, typer.Option("--picture", metavar="ADDRESS", help="Address of a picture.")] = "",
    contact: Annotated[
        list[str] | None,
        typer.Option("--contact", help="A mail address, a telephone number or a web address; may be repeated."),
    ] = None,
    colour: ColourOption = "#1f6f73",
    out: OutOption = None,
) -> None:
    """Make a sign-off for mail and invoices, with its look inside: mail programs keep little else.

    \b
    Example:
      verse-tray make sign-off "Maren Tidewell" --role "Counts and volunteers" --contact counts@gannetcove.example
    """
    from verse_tray.cli.make.shared import deliver
    from verse_tray.make import blocks

    signs = blocks.SignOff(person, role, picture, tuple(contact or ()))
    deliver(blocks.make_signoff(signs, colour=colour), None, out)


COMMANDS = {"button": make_button, "cards": make_cards, "list": make_list, "sign-off": make_signoff}
