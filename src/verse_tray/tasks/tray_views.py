"""Views of the pieces of a tray, each where it is to stand."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.themes import chosen_looks
from verse_tray.journeys.journey import Journey, journey
from verse_tray.place.placement import place
from verse_tray.place.views import views_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side
from verse_tray.preview.sheet import NARROW, WIDE, Besides, Shown, row_names, sheet
from verse_tray.tasks.tray import TrayAtWork
from verse_tray.tasks.tray_placing import sites_of

_SIDES: tuple[Side, ...] = ("written", "published", "placed")


def sheet_of(tray: TrayAtWork, name: str) -> bytes:
    """Return the sheet of one piece."""
    return tray_sheet(tray, [name]).encode("utf-8", "replace")


def tray_sheet(tray: TrayAtWork, names: Sequence[str], *, script: str = "", sends: str = "") -> str:
    """Return a sheet of pieces: a row for each place, and for each further editor that a piece is checked in.

    Args:
        tray: The tray.
        names: The pieces.
        script: Script that runs behind the sheet's own.
        sends: Where that script may connect to.
    """
    journeys: list[Journey] = []
    placed: list[Besides | None] = []
    for site in sites_of(tray):
        wanted = [each for name in tray.pieces for each in tray.wanted(name) if each.where.site.name == site]
        shown = {tray.piece(name).source.name for name in names}
        for view in views_of(place(wanted[0].where.site, wanted)):
            if view.whole.piece.source.name in shown:
                journeys.append(view.whole)
                placed.append(Besides(view.placed, view.share))
    for name in names:
        own = tray.editors(name)[len(tray.pieces[name].on) :]
        for editor in own or ([] if tray.pieces[name].on else [plain_editor()]):
            journeys.append(journey(tray.piece(name), editor))
            placed.append(None)
    rows = row_names(journeys)
    besides: dict[tuple[str, Side], Besides] = {
        (row, "placed"): each for row, each in zip(rows, placed, strict=True) if each is not None
    }
    sides = _SIDES if besides else _SIDES[:2]
    looks = chosen_looks([each.editor for each in journeys])
    folders = tuple(tray.folder / folder for name in names for folder in tray.pieces[name].pictures)
    pictures = LocalPictures(tray.folder, folders, stored=True)
    titled = len({each.piece.source.name for each in journeys}) > 1
    return sheet(journeys, pictures, Shown(sides, (WIDE, NARROW), looks, besides, titled), script=script, sends=sends)


def watched(tray: TrayAtWork) -> tuple[list[Path], list[Path]]:
    """Return the files of a tray, and the folders of sites and profiles beside them."""
    files = [tray.folder / "tray.toml"]
    folders: list[Path] = []
    for piece in tray.pieces.values():
        files += tray.loaded.files_of(piece)
        for named in (*(spot.page for spot in piece.on), *piece.editors):
            for path in (tray.folder / named, tray.folder / named.rpartition(":")[0]):
                if named.partition(":")[0] and path != tray.folder and path.exists():
                    folders.append(path if path.is_dir() else path.parent)
    return list(dict.fromkeys(files)), list(dict.fromkeys(folders))
