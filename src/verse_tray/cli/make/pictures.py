"""``verse-tray make picture``, ``slider`` and ``swap``."""

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.make.shared import (
    CssOption,
    ForOption,
    LanguageOption,
    NameOption,
    OutOption,
    ScriptOption,
    StylesOption,
    WindowOption,
)

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.pictures import Picture
    from verse_tray.make.terms import Terms


class Align(StrEnum):
    """Where a picture stands."""

    LEFT = "left"
    RIGHT = "right"
    CENTRE = "centre"
    CENTER = "center"
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
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import pictures

    picture = pictures.Picture(address, _asked(alt, address), width, height, caption, link)
    place = pictures.Place(Align.CENTRE.value if align is Align.CENTER else align.value)

    def build(form: str, terms: "Terms") -> "Made":
        return pictures.make_picture(picture, terms, align=place, new_window=new_window, form=form, name=name)

    make(pictures.forms_of_picture(place), build, Wanted(styles, for_, css, out))


def make_slider(
    data: Annotated[
        str | None, typer.Argument(metavar="[DATA]", help="CSV or JSON with the columns picture, alt, caption, link.")
    ] = None,
    picture: Annotated[
        list[str] | None, typer.Option("--picture", metavar="ADDRESS|ALT|CAPTION", help="A picture; may be repeated.")
    ] = None,
    label: Annotated[str, typer.Option("--label", help="What the row of pictures is, for screen readers.")] = "",
    back: Annotated[str, typer.Option("--back", metavar="WORDS", help="On the button to the one before.")] = "",
    next_: Annotated[str, typer.Option("--next", metavar="WORDS", help="On the button to the one behind.")] = "",
    language: LanguageOption = "en",
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
    from msgspec.structs import replace

    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import pictures
    from verse_tray.make.words import words_of

    shown = [_from_words(each) for each in picture or []] + ([] if data is None else _from_file(data))
    usual = words_of(language)
    words = replace(usual, back=back or usual.back, next=next_ or usual.next)

    def build(form: str, terms: "Terms") -> "Made":
        return pictures.make_slider(
            shown, terms, label=label or words.pictures, width=width, height=height, form=form, words=words, name=name
        )

    forms = pictures.SLIDER_FORMS if script or (script is None and for_) else pictures.SLIDER_FORMS[1:]
    make(forms, build, Wanted(styles, for_, css, out), "buttons" if script else None)


def make_swap(
    first: Annotated[str, typer.Argument(metavar="FIRST", help="Address of the picture that shows at first.")],
    second: Annotated[str, typer.Argument(metavar="SECOND", help="Address of the one that takes its place.")],
    alt: AltOption = None,
    back: Annotated[
        str, typer.Option("--back", metavar="WORDS", help="What brings the first picture back, without a script.")
    ] = "",
    language: LanguageOption = "en",
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
    from msgspec.structs import replace

    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import pictures
    from verse_tray.make.words import words_of

    one = pictures.Picture(first, _asked(alt, first), width, height)
    other = pictures.Picture(second, _asked(second_alt, second, "--second-alt"), width, height)
    usual = words_of(language)
    words = replace(usual, first=back or usual.first)

    def build(form: str, terms: "Terms") -> "Made":
        return pictures.make_swap(one, other, terms, form=form, words=words, name=name)

    forms = pictures.SWAP_FORMS if script or (script is None and for_) else pictures.SWAP_FORMS[1:]
    make(forms, build, Wanted(styles, for_, css, out), "script" if script else None)


def _asked(alt: str | None, address: str, option: str = "--alt") -> str:
    from verse_tray.model.errors import InputError

    if alt is None:
        raise InputError(
            f'{address}: what does this picture show? Say it with {option}; {option} "" for one that only decorates.'
        )
    return alt


def _from_words(given: str) -> "Picture":
    from verse_tray.make.pictures import Picture

    address, _, rest = given.partition("|")
    alt, _, caption = rest.partition("|")
    return Picture(
        address.strip(),
        _asked(alt.strip() or None, address.strip(), "--picture 'ADDRESS|ALT'"),
        caption=caption.strip(),
    )


def _from_file(data: str) -> "list[Picture]":
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
