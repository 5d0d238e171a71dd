"""``verse-tray sites``."""

from typing import Annotated

import typer

app = typer.Typer(
    help="List the known sites, show or begin one.",
    invoke_without_command=True,
    rich_markup_mode=None,
)


@app.callback()
def list_sites(context: typer.Context) -> None:
    """List the known sites, show or begin one.

    A site says what an author pastes into: pages with their regions, slots for styles and scripts, holders of raw code.
    Without a command it lists them, with the regions of each page, how wide they are and how much stands there.

    \b
    Examples:
      verse-tray sites
      verse-tray sites show field-shop
      verse-tray sites new our-site --like field-blog
    """
    if context.invoked_subcommand is not None:
        return
    from rich.table import Table

    from verse_tray.cli.screen import console
    from verse_tray.sites.load import known_sites, load_site

    table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
    for heading in ("site:page", "region", "pixels", "items", "editor"):
        table.add_column(heading, overflow="fold", justify="right" if heading in ("pixels", "items") else "left")
    for name in known_sites():
        for page, about in load_site(name).site.pages.items():
            for region, each in about.regions.items():
                table.add_row(f"{name}:{page}", region, f"{each.width:,}", str(len(each.items)), each.editor)
    screen = console()
    screen.print(table)
    screen.print("\nverse-tray sites show NAME tells what stands there, which slots there are, and how to get there.")


@app.command("show")
def show_one(name: Annotated[str, typer.Argument(metavar="NAME", help="Site by name, folder or TOML file.")]) -> None:
    """Tell what a site has: pages, regions with widths and items, slots, holders.

    \b
    Example:
      verse-tray sites show field-blog
    """
    from verse_tray.cli.screen import console, show
    from verse_tray.reports.site_text import site_text
    from verse_tray.sites.load import load_site

    show(console(), site_text(load_site(name)))


@app.command("new")
def new(
    name: Annotated[str, typer.Argument(metavar="NAME", help="Name of the site: also that of its folder.")],
    like: Annotated[
        str, typer.Option("--like", metavar="OTHER", help="Site to begin with, by name, folder or TOML file.")
    ] = "field-blog",
) -> None:
    """Begin a site of your own as a copy of another: a folder with site.toml, pages and themes.

    \b
    Example:
      verse-tray sites new our-site --like survey-site
      verse-tray place tide-table.html --on ./our-site:reports
    """
    from verse_tray.cli.screen import note
    from verse_tray.tasks.sites import begin_site

    folder = begin_site(name, like)
    note(
        f"Wrote {folder / 'site.toml'}. Describe your pages in it, and use it with: --on "
        f"{folder if folder.is_absolute() else f'./{folder}'}"
    )


@app.command("schema")
def schema() -> None:
    """Print the JSON Schema of site.toml, for editors of text that complete and check TOML.

    \b
    Example:
      verse-tray sites schema > site.schema.json
    """
    from verse_tray.cli.screen import print_raw
    from verse_tray.tasks.sites import site_schema_text

    print_raw(site_schema_text())
