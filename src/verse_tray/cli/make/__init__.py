"""``verse-tray make``: one command for each piece."""

from __future__ import annotations

import typer

from verse_tray.cli.make import blocks, frames, pictures, table, text

app = typer.Typer(
    help="Make a piece from values: a table, cards, a slider, a sign-off.", rich_markup_mode=None, no_args_is_help=True
)

app.command("table")(table.make_table)
app.command("picture")(pictures.make_picture)
app.command("slider")(pictures.make_slider)
app.command("swap")(pictures.make_swap)
app.command("button")(blocks.make_button)
app.command("cards")(blocks.make_cards)
app.command("list")(blocks.make_list)
app.command("sign-off")(blocks.make_signoff)
app.command("video")(frames.make_video)
app.command("map")(frames.make_map)
app.command("code")(text.make_code)
app.command("text")(text.make_text)
