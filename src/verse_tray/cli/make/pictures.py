"""``verse-tray make picture``, ``slider`` and ``swap``."""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.make.shared import (
    CssOption,
    ForOption,
    NameOption,
    OutOption,
    ScriptOption,
    StylesOption,
    WindowOption,
)

if TYPE_CHECKING:
    from verse_tray.make.pictures import Picture


class Align(StrEnum):
    """Where a picture stands."""

    LEFT = "left"
    RIGHT = "right"
    CENTRE = "centre"
    NONE = "none"


AltOption = Annotated[str | None, typer.Option("--alt", help='What the picture shows; "" for one that only decorates.')]


def make_picture(
    address: Annotated[str, typer.Argument(metavar="ADDRESS", help="Address of the picture.")],
    alt: AltOption = None,
    link: Annotated[str, typer.Option("--link", metavar="ADDRESS", help="Where a click on it leads.")] = "",
    new_window: WindowOption = False,
    width: Annotated[int | None, typer.Option("--width", min=1, help="Width in pixels.")] = None,
    height: Annotated[int | None, typer.Option("--height", min=1, help="Height in pixels.")] = None,
    align: Annotated[
        Align, typer.Option("--align", help="Where it stands; left and right let text flow around it.")
    ] = Align.NONE,
    caption: Annotated[str, typer.Option("--caption", help="Words below it.")] = "",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a picture with alternative text, a link, a caption and a place among the text.

    \b
    Example:
      verse-tray make picture https://pictures.example.org/limpet.png --alt "A limpet" --align right
    """
    from verse_tray.cli.make.shared import chosen_styles, deliver
    from verse_tray.make import pictures

    picture = pictures.Picture(address, _asked(alt, address), width, height, caption, link)
    made = pictures.make_picture(
        picture, chosen_styles(styles, for_, css), align=align.value, new_window=new_window, name=name
    )
    deliver(made, css, out)


def make_slider(
    data: Annotated[
        str | None, typer.Argument(metavar="[DATA]", help="CSV or JSON with the columns picture, alt, caption, link.")
    ] = None,
    picture: Annotated[
        list[str] | None, typer.Option("--picture", metavar="ADDRESS|ALT|CAPTION", help="A picture; may be repeated.")
    ] = None,
    label: Annotated[
        str, typer.Option("--label", help="What the row of pictures is, for screen readers.")
    ] = "Pictures",
    width: Annotated[int, typer.Option("--width", min=50, help="Width of each in pixels.")] = 640,
    height: Annotated[int, typer.Option("--height", min=50, help="Height of each in pixels.")] = 420,
    script: ScriptOption = None,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a row of pictures that readers move through, by touch, keys or wheel; with a script by two buttons as well.

    \b
    Examples:
      verse-tray make slider pools.csv --label "What lives in the pools" --styles element
      verse-tray make slider --picture "https://example.org/a.png|A limpet" --picture "https://example.org/b.png|A crab"
    """
    from verse_tray.cli.make.shared import chosen_styles, deliver, script_allowed
    from verse_tray.make import pictures

    shown = [_from_words(each) for each in picture or []] + ([] if data is None else _from_file(data))
    made = pictures.make_slider(
        shown,
        chosen_styles(styles, for_, css),
        label=label,
        width=width,
        height=height,
        script=script_allowed(script, for_),
        name=name,
    )
    deliver(made, css, out)


def make_swap(
    first: Annotated[str, typer.Argument(metavar="FIRST", help="Address of the picture that shows at first.")],
    second: Annotated[str, typer.Argument(metavar="SECOND", help="Address of the one that takes its place.")],
    alt: AltOption = None,
    second_alt: Annotated[str | None, typer.Option("--second-alt", help="What the second picture shows.")] = None,
    width: Annotated[int | None, typer.Option("--width", min=1, help="Width of both in pixels.")] = None,
    height: Annotated[int | None, typer.Option("--height", min=1, help="Height of both in pixels.")] = None,
    script: ScriptOption = None,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a picture that gives way to another on a click or on Enter; without a script it opens and closes.

    \b
    Example:
      verse-tray make swap https://example.org/low.png https://example.org/high.png --alt "Low" --second-alt "High"
    """
    from verse_tray.cli.make.shared import chosen_styles, deliver, script_allowed
    from verse_tray.make import pictures

    one = pictures.Picture(first, _asked(alt, first), width, height)
    other = pictures.Picture(second, _asked(second_alt, second, "--second-alt"), width, height)
    made = pictures.make_swap(
        one, other, chosen_styles(styles, for_, css), script=script_allowed(script, for_), name=name
    )
    deliver(made, css, out)


def _asked(alt: str | None, address: str, option: str = "--alt") -> str:
    from verse_tray.model.errors import InputError

    if alt is None:
        raise InputError(
            f'{address}: what does this picture show? Say it with {option}; {option} "" for one that only decorates.'
        )
    return alt


def _from_words(given: str) -> Picture:
    from verse_tray.make.pictures import Picture

    address, _, rest = given.partition("|")
    alt, _, caption = rest.partition("|")
    return Picture(
        address.strip(),
        _asked(alt.strip() or None, address.strip(), "--picture 'ADDRESS|ALT'"),
        caption=caption.strip(),
    )


def _from_file(data: str) -> list[Picture]:
    from verse_tray.cli.make.columns import need
    from verse_tray.make.pictures import Picture
    from verse_tray.tabular.records import read_records
    from verse_tray.tasks.files import read_text

    records = read_records(read_text(data), data)
    need(records, ("picture", "alt"), ("caption", "link"))
    return [
        Picture(row["picture"], row["alt"], caption=row.get("caption", ""), link=row.get("link", ""))
        for row in records.rows
    ]


COMMANDS = {"picture": make_picture, "slider": make_slider, "swap": make_swap}
