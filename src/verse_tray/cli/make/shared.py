"""Options that the commands of ``make`` share, and what they do with a piece that was made."""

from collections.abc import Sequence
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, NamedTuple

import typer

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.survive import Form
    from verse_tray.make.terms import Styles
    from verse_tray.tasks.make import Build


class StylesChoice(StrEnum):
    """Where the look of a piece goes."""

    INLINE = "inline"
    ELEMENT = "element"
    SEPARATE = "separate"
    NONE = "none"


StylesOption = Annotated[
    StylesChoice | None,
    typer.Option(
        "--styles", help="Where its look goes: into style attributes, a style element, a file of its own, nowhere."
    ),
]
ForOption = Annotated[
    str | None,
    typer.Option("--for", metavar="EDITOR", help="Editor it goes into: it is made as it survives there best."),
]
NameOption = Annotated[
    str | None,
    typer.Option("--name", metavar="NAME", help="What its classes and identifiers begin with. Left out: its own."),
]
CssOption = Annotated[
    Path | None, typer.Option("--css", metavar="PATH", help="With --styles separate: file for its styles.")
]
OutOption = Annotated[Path | None, typer.Option("-o", "--out", metavar="PATH", help="File to write to.")]
ColourOption = Annotated[str, typer.Option("--colour", help="Its colour, in any form of CSS.")]
ScriptOption = Annotated[
    bool | None,
    typer.Option("--script/--no-script", help="Whether it may hold a script; it works without one as well."),
]
WindowOption = Annotated[bool, typer.Option("--new-window", help="Open the link in a new window.")]

LanguageOption = Annotated[
    str, typer.Option("--language", metavar="CODE", help="Language of the words that it shows, such as en or de.")
]


def chosen_styles(styles: StylesChoice | None, css: Path | None) -> "Styles | None":
    """Return where styles go, as asked for; None where nobody said.

    Raises:
        InputError: separate styles have no file to go to, or the other way round.
    """
    from verse_tray.make.terms import Styles
    from verse_tray.model.errors import InputError

    if css is not None and styles not in (None, StylesChoice.SEPARATE):
        raise InputError(f"--css is for separate styles, and --styles {styles} has none.")
    if styles is StylesChoice.SEPARATE and css is None:
        raise InputError("--styles separate: name a file for the styles with --css.")
    if css is not None:
        return Styles.SEPARATE
    return None if styles is None else Styles(styles.value)


class Wanted(NamedTuple):
    """Where the look of a piece goes, what it is for, and where it is written."""

    styles: StylesChoice | None
    editor: str | None
    css: Path | None
    out: Path | None


def make(forms: "Sequence[Form]", build: "Build", wanted: Wanted, form: str | None = None) -> None:
    """Make a piece, and write it."""
    from verse_tray.tasks.make import make_piece

    styles = chosen_styles(wanted.styles, wanted.css)
    made = make_piece(forms, build, styles=styles, editor=wanted.editor, form=form)
    deliver(made, wanted.css, wanted.out)


def deliver(made: "Made", css: Path | None, out: Path | None) -> None:
    """Write a piece that was made, and say on standard error what its author should know."""
    from verse_tray.cli.screen import note, write_result
    from verse_tray.tasks.outputs import write_whole

    for each in made.notes:
        note(each)
    if css is not None:
        write_whole(css, made.css.encode())
        note(f"Wrote its styles to {css}.")
    write_result(made.markup.encode(), out)
