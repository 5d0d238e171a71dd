"""Options that the commands of ``make`` share, and what they do with a piece that was made."""

from __future__ import annotations

from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.make.builder import Made, Styles


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
    typer.Option(
        "--for", metavar="EDITOR", help="Editor it goes into: styles and scripts are chosen by what that keeps."
    ),
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

_PROBE = (
    '<style>.probe-a{color:red}</style><p class="probe-a" style="color: red; background: '
    'blue">x</p><script>probe()</script>'
)


def chosen_styles(styles: StylesChoice | None, editor: str | None, css: Path | None) -> Styles:
    """Return where styles go: as asked for, or as an editor keeps them.

    Raises:
        InputError: separate styles have no file to go to, or the other way round.
    """
    from verse_tray.make.builder import Styles
    from verse_tray.model.errors import InputError

    if css is not None and styles not in (None, StylesChoice.SEPARATE):
        raise InputError(f"--css is for separate styles, and --styles {styles} has none.")
    if styles is StylesChoice.SEPARATE and css is None:
        raise InputError("--styles separate: name a file for the styles with --css.")
    if css is not None:
        return Styles.SEPARATE
    if styles is not None:
        return Styles(styles.value)
    if editor is None:
        return Styles.INLINE
    names = _kept_by(editor)
    return Styles.ELEMENT if "style" in names else Styles.INLINE if "style attribute" in names else Styles.NONE


def script_allowed(script: bool | None, editor: str | None) -> bool:
    """Return whether a piece may hold a script: as asked for, or as an editor lets one run; not without a word."""
    if script is not None or editor is None:
        return bool(script)
    return "script" in _kept_by(editor)


def background_kept(editor: str | None) -> bool:
    """Return whether a background survives in an editor; where none is named, it does."""
    return editor is None or "background" in _kept_by(editor)


@cache
def _kept_by(editor: str) -> set[str]:
    """Return what an editor keeps of a style element, a style attribute and a script."""
    from verse_tray.editors.load import load_editor
    from verse_tray.journeys.journey import journey

    made = journey(_PROBE, load_editor(editor))
    kept = {element.name for element in made.published.elements()}
    styles = [element.attributes["style"] for element in made.published.elements() if "style" in element.attributes]
    if styles:
        kept.add("style attribute")
    if "style" in kept or any("background" in style for style in styles):
        kept.add("background")
    if made.survival.behaviour.lost:
        kept.discard("script")
    return kept


def deliver(made: Made, css: Path | None, out: Path | None) -> None:
    """Write a piece that was made, and say on standard error what its author should know."""
    from verse_tray.cli.screen import note, write_result
    from verse_tray.tasks.outputs import write_whole

    for each in made.notes:
        note(each)
    if css is not None:
        write_whole(css, made.css.encode())
        note(f"Wrote its styles to {css}.")
    write_result(made.markup.encode(), out)
