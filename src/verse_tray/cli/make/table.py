"""``verse-tray make table``."""

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.make.shared import ColourOption, CssOption, ForOption, NameOption, OutOption, StylesOption

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.terms import Terms


class Widths(StrEnum):
    """Widths of the columns."""

    NATURAL = "natural"
    EQUAL = "equal"


class Borders(StrEnum):
    """Lines between cells."""

    ROWS = "rows"
    ALL = "all"
    NONE = "none"


class Phone(StrEnum):
    """What a table does on a phone."""

    FIT = "fit"
    SHRINK = "shrink"
    SCROLL = "scroll"
    STACK = "stack"


def make_table(
    data: Annotated[str, typer.Argument(metavar="DATA", help="CSV or JSON with the rows; - is standard input.")],
    header: Annotated[bool, typer.Option("--header/--no-header", help="Whether the first row is a header.")] = True,
    row_headers: Annotated[
        bool, typer.Option("--row-headers", help="The first cell of each row says what it is about.")
    ] = False,
    widths: Annotated[Widths, typer.Option("--widths", help="Widths of the columns.")] = Widths.NATURAL,
    borders: Annotated[Borders, typer.Option("--borders", help="Lines between cells.")] = Borders.ROWS,
    stripes: Annotated[bool, typer.Option("--stripes", help="Give every second row a ground of its own.")] = False,
    caption: Annotated[str, typer.Option("--caption", help="Its caption.")] = "",
    region: Annotated[
        int,
        typer.Option(
            "--region", min=50, metavar="PIXELS", help="Width that a phone leaves it; its text size is fitted to that."
        ),
    ] = 343,
    phone: Annotated[
        Phone,
        typer.Option(
            "--phone",
            help="On a phone: smaller letters (shrink), a box that scrolls, or each row as a list (stack). Left out: "
            "smaller letters where they can be read, else scroll.",
        ),
    ] = Phone.FIT,
    colour: ColourOption = "#2f6f73",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a table from CSV or JSON. Columns of numbers are found, and the text size that fits a phone is told.

    \b
    Examples:
      verse-tray make table tides.csv --stripes --caption "Low water in December"
      verse-tray make table tides.csv --for course-page | verse-tray check - --editor course-page
      verse-tray make table tides.csv --styles element --phone stack
      verse-tray make table tides.json --styles separate --css tides.css -o tides.html
    """
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import table
    from verse_tray.make.blocks import text_on
    from verse_tray.tabular.records import read_rows
    from verse_tray.tasks.files import read_text

    text_on(colour, "--colour")
    look = table.TableLook(
        header, row_headers, widths.value, borders.value, stripes, caption, colour, region, phone.value
    )
    rows = [[cell.strip() for cell in row] for row in read_rows(read_text(data), data)]

    def build(form: str, terms: "Terms") -> "Made":
        return table.make_table(rows, look, terms, form=form, name=name, source=data)

    make(table.FORMS, build, Wanted(styles, for_, css, out))


COMMANDS = {"table": make_table}
