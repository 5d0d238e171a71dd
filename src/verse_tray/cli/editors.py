"""``verse-tray editors``."""

from __future__ import annotations

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

    from verse_tray.cli.files import console
    from verse_tray.editors.load import known_editors, load_editor

    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    table.add_column("editor", no_wrap=True)
    table.add_column("what it is and does")
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
    from verse_tray.cli.files import console, show
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
    import msgspec

    from verse_tray import adopt as adopt_configuration
    from verse_tray.cli.files import read_text
    from verse_tray.editors.store import profile_toml
    from verse_tray.model.errors import InputError

    try:
        data = msgspec.json.decode(read_text(config))
    except msgspec.DecodeError as error:
        raise InputError(f"{config}: this is not JSON: {error}. Give a SanitizerConfig.") from None
    editor = adopt_configuration(data, safe=not unsafe, name=name)
    _write(Path(name), {"editor.toml": profile_toml(editor.profile)})


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
    from verse_tray.editors.load import load_editor
    from verse_tray.editors.store import profile_toml
    from verse_tray.editors.themes import themes

    editor = load_editor(like)
    profile = profile_toml(editor.profile, title=Path(name).name)
    looks = {f"{theme}.css": css for theme, css in themes(editor).items()}
    files = {"editor.toml": profile, editor.profile.frame: editor.frame, **looks}
    _write(Path(name), files)


@app.command("schema")
def schema() -> None:
    """Print the JSON Schema of editor.toml, for editors of text that complete and check TOML.

    \b
    Example:
      verse-tray editors schema > editor.schema.json
    """
    import msgspec

    from verse_tray.cli.files import print_raw
    from verse_tray.editors.schema import profile_schema

    print_raw(msgspec.json.format(msgspec.json.encode(profile_schema()), indent=2).decode() + "\n")


def _write(folder: Path, files: dict[str, str]) -> None:
    from verse_tray.cli.files import note, write_whole
    from verse_tray.model.errors import OutputError

    try:
        folder.mkdir(parents=True)
    except OSError as error:
        raise OutputError(f"{folder}: the folder cannot be made: {error.strerror}. Give another name.") from None
    for name, text in files.items():
        write_whole(folder / name, text.encode())
    note(f"Wrote {folder / 'editor.toml'}. Use it with: --editor {folder if folder.is_absolute() else f'./{folder}'}")
