"""``verse-tray make code`` and ``text``."""

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.make.shared import CssOption, ForOption, NameOption, OutOption, StylesOption

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.terms import Terms


class WrittenAs(StrEnum):
    """What a text was written in."""

    MARKDOWN = "markdown"
    WORD = "word"


def make_code(
    file: Annotated[str, typer.Argument(metavar="FILE", help="The code that is to be shown; - is standard input.")],
    language: Annotated[str, typer.Option("--language", help="Name of its language: becomes a class.")] = "",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a code sample: markup shown as text, every sign escaped.

    \b
    Example:
      verse-tray make code sign-off.html --language html
    """
    from verse_tray.cli.make.shared import Wanted, make
    from verse_tray.make import code
    from verse_tray.tasks.files import read_text

    text = read_text(file)

    def build(form: str, terms: "Terms") -> "Made":
        return code.make_code(text, terms, language=language, form=form, name=name)

    make(code.FORMS, build, Wanted(styles, for_, css, out))


def make_text(
    file: Annotated[
        str, typer.Argument(metavar="FILE", help="Markdown, or a word processor's HTML; - is standard input.")
    ],
    written_as: Annotated[
        WrittenAs | None, typer.Option("--from", help="What it is written in. Left out: told by looking.")
    ] = None,
    out: OutOption = None,
) -> None:
    """Make plain portable markup of Markdown, or of what a word processor saved as HTML.

    \b
    Examples:
      verse-tray make text notes.md
      verse-tray make text saved-from-the-word-processor.html | verse-tray check -
    """
    from verse_tray.cli.screen import note, write_result
    from verse_tray.make.plain import from_markdown, from_word, left_out
    from verse_tray.model.errors import InputError
    from verse_tray.tasks.files import read_source

    source = read_source(file)
    if not source.text.strip():
        raise InputError(f"{file}: there is nothing in it.")
    if written_as is None:
        tags = source.text.lstrip().startswith("<") or "</p>" in source.text.lower()
        written_as = WrittenAs.WORD if tags else WrittenAs.MARKDOWN
        note(f"Read as {'HTML of a word processor' if tags else 'Markdown'}; --from says otherwise.")
    made = from_word(source.text) if written_as is WrittenAs.WORD else from_markdown(source.text)
    for each in left_out(source.text, made):
        note(each)
    write_result(made.encode(), out)


COMMANDS = {"code": make_code, "text": make_text}
