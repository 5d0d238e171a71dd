"""Views of the pieces of a tray, each where it is to stand."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

from verse_tray.editors.chosen import plain_editor
from verse_tray.editors.themes import chosen_looks
from verse_tray.journeys.journey import Journey, journey
from verse_tray.place.views import views_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side
from verse_tray.preview.sheet import NARROW, WIDE, Besides, Shown, row_names, sheet
from verse_tray.tasks.outputs import write_whole
from verse_tray.tasks.tray import TrayAtWork
from verse_tray.trays.load import FILE
from verse_tray.trays.state import Checked

_SIDES: tuple[Side, ...] = ("written", "published", "placed")


def preview_tray(tray: TrayAtWork) -> Iterator[Path]:
    """Write a sheet for each piece that has changed; yield where it stands.

    Raises:
        OutputError: it cannot be written.
    """
    for name in tray.changed(tray.state.previewed):
        path = tray.folder / "previews" / f"{name}.html"
        write_whole(path, tray_sheet(tray, [name]))
        tray.state.previewed[name] = Checked(tray.key(name))
        tray.save()
        yield path


def tray_sheet(tray: TrayAtWork, names: Sequence[str], *, script: str = "", sends: str = "") -> bytes:
    """Return a sheet of pieces: a row for each place, and for each further editor that a piece is checked in.

    Args:
        tray: The tray.
        names: The pieces.
        script: Script that runs behind the sheet's own.
        sends: Where that script may connect to.
    """
    journeys: list[Journey] = []
    placed: list[Besides | None] = []
    shown = {tray.piece(name).source.name for name in names}
    for site in tray.sites:
        for view in views_of(tray.placement(site)):
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
    files, folders = [tray.folder / FILE], list[Path]()
    for piece in tray.pieces.values():
        files += tray.loaded.files_of(piece)
        folders += tray.loaded.described(piece)
    return list(dict.fromkeys(files)), list(dict.fromkeys(folders))
