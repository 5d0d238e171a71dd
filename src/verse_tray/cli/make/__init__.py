"""``verse-tray make``: one command for each piece. Each module names its own in ``COMMANDS``."""

import typer

from verse_tray.cli.make import blocks, frames, pictures, table, text

app = typer.Typer(
    help="Make a piece from values: a table, cards, a slider, a sign-off.", rich_markup_mode=None, no_args_is_help=True
)
for module in (table, pictures, blocks, frames, text):
    for name, command in module.COMMANDS.items():
        app.command(name)(command)
