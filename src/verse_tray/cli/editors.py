"""``verse-tray editors``."""

from pathlib import Path
from typing import Annotated

import typer

app = typer.Typer(
    help="List the known editors, show, adopt or begin one.",
    invoke_without_command=True,
    rich_markup_mode=None,
)


@app.callback()
def list_editors(context: typer.Context) -> None:
    """List the known editors, show, adopt or begin one.

    Without a command it lists them. Adopting makes one from an HTML Sanitizer API configuration.

    \b
    Examples:
      verse-tray editors
      verse-tray editors show course-page:teacher
      verse-tray editors new our-blog --like blog-post
      verse-tray editors adopt config.json --name comment-box
    """
    if context.invoked_subcommand is not None:
        return
    from rich.table import Table

    from verse_tray.cli.screen import console
    from verse_tray.editors.load import known_editors, load_editor

    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    table.add_column("editor", no_wrap=True)
    table.add_column("what it is and does", overflow="fold")
    for name in known_editors():
        profile = load_editor(name).profile
        variants = f" Variants: {', '.join(f':{variant}' for variant in profile.variants)}." if profile.variants else ""
        table.add_row(name, profile.summary + variants)
    screen = console()
    screen.print(table)
    screen.print("\nverse-tray editors show NAME tells what one of them keeps, changes and limits.")


@app.command("show")
def show_one(name: Annotated[str, typer.Argument(metavar="NAME", help="Editor by name, folder or TOML file.")]) -> None:
    """Tell what an editor keeps, changes and limits.

    \b
    Example:
      verse-tray editors show mail-signoff
      verse-tray editors show course-page:teacher
    """
    from verse_tray.cli.screen import console, show
    from verse_tray.editors.load import load_editor
    from verse_tray.reports.editor_text import editor_text

    screen = console()
    show(screen, editor_text(load_editor(name)))


@app.command("adopt")
def adopt(
    config: Annotated[
        str, typer.Argument(metavar="CONFIG.json", help="A SanitizerConfig as JSON; - is standard input.")
    ],
    name: Annotated[str, typer.Option("--name", help="Name of the editor: also that of the folder it is written to.")],
    unsafe: Annotated[
        bool,
        typer.Option(
            "--unsafe", help="Describe the unsafe methods, which let scripts and handlers through when allowed."
        ),
    ] = False,
) -> None:
    """Make an editor from an HTML Sanitizer API configuration: a folder with an editor.toml.

    \b
    Example:
      verse-tray editors adopt config.json --name comment-box
      verse-tray check piece.html --editor ./comment-box
    """
    from verse_tray.tasks.profiles import adopt_editor

    _tell(adopt_editor(config, name, safe=not unsafe))


@app.command("new")
def new(
    name: Annotated[str, typer.Argument(metavar="NAME", help="Name of the editor: also that of its folder.")],
    like: Annotated[
        str, typer.Option("--like", metavar="OTHER", help="Editor to begin with, by name, folder or TOML file.")
    ],
) -> None:
    """Begin a profile of your own as a copy of another: a folder with editor.toml, page frame and themes.

    \b
    Example:
      verse-tray editors new our-blog --like blog-post
      verse-tray check piece.html --editor ./our-blog
    """
    from verse_tray.tasks.profiles import begin_editor

    _tell(begin_editor(name, like))


@app.command("schema")
def schema() -> None:
    """Print the JSON Schema of editor.toml, for editors of text that complete and check TOML.

    \b
    Example:
      verse-tray editors schema > editor.schema.json
    """
    from verse_tray.cli.screen import print_raw
    from verse_tray.tasks.profiles import schema_text

    print_raw(schema_text())


def _tell(folder: Path) -> None:
    from verse_tray.cli.screen import note

    note(f"Wrote {folder / 'editor.toml'}. Use it with: --editor {folder if folder.is_absolute() else f'./{folder}'}")
