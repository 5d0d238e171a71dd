"""Beginning a tray."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

import tomlkit
from msgspec import Struct

from verse_tray.model.errors import InputError, OutputError
from verse_tray.model.phrasing import listed, spelling
from verse_tray.sites.load import Where, chosen_page, chosen_region, load_site, split_page
from verse_tray.tasks.outputs import write_whole
from verse_tray.trays.load import FILE
from verse_tray.trays.records import FORMAT

_STARTERS = Path(__file__).parent.parent / "trays" / "starters"
KINDS: dict[str, dict[str, object]] = {
    "section": {"parts": ["section.html"]},
    "banner": {"parts": ["banner.html"]},
    "cards": {"make": ["cards", "cards.csv"]},
    "table": {"make": ["table", "table.csv", "--stripes"]},
    "widget": {"parts": ["widget.html", "widget.css", "widget.js"]},
}
"""Kinds of pieces to begin with, each with what its tray says of it."""


class NewTray(Struct, frozen=True):
    """A tray that is to be begun."""

    folder: Path
    """Its folder, which is made."""
    kind: str
    """Kind of its piece."""
    page: str
    """Page that the piece goes to, as ``SITE:PAGE``."""
    region: str = ""
    """Region of that page; empty for the only one."""
    position: str = ""
    """Place among what stands there; empty for behind everything."""
    title: str = ""
    """Its title; empty for the folder's name."""


def begin_tray(asked: NewTray) -> list[str]:
    """Begin a tray, and return the names of the files that were written.

    Raises:
        InputError: there is no such kind.
        UnknownSiteError, SettingsError: there is no such page or region.
        OutputError: the folder cannot be made.
    """
    if asked.kind not in KINDS:
        near = spelling(asked.kind, KINDS, 0.5)
        raise InputError(f"--kind {asked.kind}: there is no such kind{near} It is {listed(KINDS, 9, 'or')}.")
    name, page = split_page(asked.page)
    site = load_site(name)
    where = Where(site, chosen_page(site, page), "")
    where = where._replace(region=chosen_region(site, where.page, asked.region))
    files = {path.name: path.read_bytes() for path in sorted((_STARTERS / asked.kind).iterdir()) if path.is_file()}
    files[FILE] = _toml(asked, where).encode()
    try:
        asked.folder.mkdir(parents=True)
    except OSError as error:
        told = "it is there already" if isinstance(error, FileExistsError) else error.strerror or str(error)
        raise OutputError(f"{asked.folder}: the folder cannot be made: {told}. Give another name.") from None
    try:
        for file, data in files.items():
            write_whole(asked.folder / file, data)
    except OutputError:  # half a tray would stand in the way of the next try
        shutil.rmtree(asked.folder, ignore_errors=True)
        raise
    return list(files)


def _toml(asked: NewTray, where: Where) -> str:
    made = tomlkit.document()
    made.add("format", tomlkit.item(FORMAT))
    made.add("title", tomlkit.item(asked.title or asked.folder.name))
    piece = tomlkit.table()
    for key, value in KINDS[asked.kind].items():
        piece.add(key, tomlkit.item(value))
    spot = tomlkit.table()
    site = where.site.name if (Path(asked.page).parts[:1] != (".",) and "/" not in asked.page) else _named(asked)
    spot.add("page", f"{site}:{where.page}")
    spot.add("region", where.region)
    if asked.position:
        spot.add("position", asked.position)
    spots = tomlkit.aot()
    spots.append(spot)
    piece.add("on", spots)
    pieces = tomlkit.table(is_super_table=True)
    pieces.add(asked.kind, piece)
    made.add("pieces", pieces)
    return tomlkit.dumps(made)


def _named(asked: NewTray) -> str:
    """Return the path of a site of the author's, as seen from the tray."""
    name, _ = split_page(asked.page)
    return os.path.relpath(name, asked.folder)
