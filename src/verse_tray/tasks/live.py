"""A sheet made of files that change, served to this machine."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from msgspec import Struct

from verse_tray.join.paste import join
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError, not_installed
from verse_tray.piece.piece import Piece
from verse_tray.preview.live import script_text
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.sheet import empty_sheet, sheet
from verse_tray.tasks.files import read_piece, read_source
from verse_tray.tasks.fill import filled_views
from verse_tray.tasks.place import PlaceRequest
from verse_tray.tasks.preview import Preview, PreviewRequest


class LiveRequest(Struct, frozen=True):
    """What is served."""

    files: tuple[str, ...]
    """The piece; several parts are joined."""
    editors: tuple[str, ...] = ()
    """Editors by name or path; none at all for every known one."""
    data: str | None = None
    """CSV or JSON whose values fill the marks of the piece."""
    record: str | None = None
    """The record that is filled in, as ``--record`` names it; None for the first."""
    extremes: bool = False
    """Whether each of the records worth looking at has views of its own."""
    mark: str = "{{NAME}}"
    """Form of the marks."""
    themes: tuple[str, ...] = ()
    """Themes of the sites; none at all for the usual ones."""
    widths: tuple[int, ...] = ()
    """Widths of the windows in CSS pixels; none at all for a desktop and a phone."""
    folders: tuple[Path, ...] = ()
    """Folders with copies of its pictures."""
    fit: bool = False
    """Whether what readers get once it was fitted has a side of its own."""
    place: PlaceRequest | None = None
    """Where on a site it is to stand; None to look at it in the pages of editors."""


class Live:
    """A sheet made of files that change."""

    def __init__(self, request: LiveRequest) -> None:
        """Name the files.

        Raises:
            InputError: one of them is not there.
        """
        self._request = request
        self._named = (*request.files, *([request.data] if request.data else []))
        for name in self._named:
            if not Path(name).is_file():
                raise InputError(f"{name}: there is no such file. Give a file: what is watched has to be one.")

    def serve(self, port: int, told: Callable[[str], None]) -> None:
        """Serve until interrupted.

        Args:
            port: Port of this machine; 0 for any that is free.
            told: Is told the address once it can be reached.

        Raises:
            InputError: a package that it needs is not there.
        """
        files = [Path(name) for name in self._named]
        home = files[0].resolve().parent
        _serve(self.make, self.empty, (files, self._profiles(), [home, *self._request.folders]), port, told)

    def _profiles(self) -> list[Path]:
        """Return the folders of profiles that were given as paths: those that come with the program do not change."""
        place = self._request.place
        names = (*self._request.editors, *(place.on if place is not None else ()))
        given = [Path(name.partition(":")[0]) for name in names]
        return [path if path.is_dir() else path.parent for path in given if path.exists()]

    def make(self) -> bytes:
        """Return the sheet.

        Raises:
            VerseTrayError: something is wrong with one of the files.
        """
        request = self._request
        fill = (
            None
            if request.data is None
            else filled_views(
                request.files[0], request.data, record=request.record, extremes=request.extremes, mark=request.mark
            )
        )
        views = PreviewRequest(
            request.files[0], request.editors, (), request.widths, request.themes, request.folders, fill, request.fit,
            request.place,
        )  # fmt: skip
        preview = Preview(views, self._piece())
        pictures = preview.pictures(stored=True)
        return sheet(preview.journeys, pictures, preview.shown, script=script_text(), sends="'self'")

    def empty(self) -> bytes:
        """Return a page without views, for when there is no sheet yet."""
        return _empty(Path(self._request.files[0]).name)

    def _piece(self) -> Piece:
        request = self._request
        name = request.files[0]
        piece = read_piece(name)
        if len(request.files) > 1:
            joined = join([read_source(each) for each in request.files], [])
            piece = Piece(Source(joined.fragment(), name))
        return piece


class LiveTray:
    """A sheet of all pieces of a tray, where they are to stand."""

    def __init__(self, folder: Path) -> None:
        """Load the tray.

        Raises:
            InputError, SettingsError: there is none, or it cannot be used.
        """
        from verse_tray.tasks.tray import TrayAtWork
        from verse_tray.tasks.tray_views import watched

        self._folder = folder
        tray = TrayAtWork(folder)
        self._files, self._folders = watched(tray)
        self._pictures = [folder / each for piece in tray.pieces.values() for each in piece.pictures]
        if not tray.pieces:
            raise InputError(f"{folder / 'tray.toml'}: there is no piece in it. Add one: [pieces.NAME]")

    def serve(self, port: int, told: Callable[[str], None]) -> None:
        """Serve until interrupted; see :meth:`Live.serve`."""
        folders = [self._folder.resolve(), *self._pictures]
        _serve(self.make, lambda: _empty("Tray"), (self._files, self._folders, folders), port, told)

    def make(self) -> bytes:
        """Return the sheet.

        Raises:
            VerseTrayError: something is wrong with one of the files.
        """
        from verse_tray.tasks.tray import TrayAtWork
        from verse_tray.tasks.tray_views import tray_sheet

        tray = TrayAtWork(self._folder)
        return tray_sheet(tray, list(tray.pieces), script=script_text(), sends="'self'")


def _serve(
    make: Callable[[], bytes],
    empty: Callable[[], bytes],
    watched: tuple[list[Path], list[Path], list[Path]],
    port: int,
    told: Callable[[str], None],
) -> None:
    """Serve what is made of files, profiles and pictures, in the folders of the last, until interrupted."""
    try:
        from verse_tray.preview.live.board import Board
        from verse_tray.preview.live.serve import Watched, serve
    except ImportError as error:
        raise InputError(not_installed("the live preview", error, "live")) from None
    files, profiles, pictures = watched
    with suppress(KeyboardInterrupt):
        serve(lambda: Board(make, empty), Watched(tuple(files), tuple(profiles), tuple(pictures)), port, told)


def _empty(title: str) -> bytes:
    about = "Nothing can be shown yet. This page changes by itself once the fault is mended."
    return empty_sheet(title, about, LocalPictures(), script=script_text(), sends="'self'")
