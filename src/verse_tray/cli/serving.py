"""What ``verse-tray live`` serves."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

from verse_tray.cli.files import note, read_piece, read_source, read_text
from verse_tray.cli.previewing import Wanted
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece
from verse_tray.preview.sheet import sheet

_SCRIPT = Path(__file__).parent.parent / "preview" / "live" / "live.js"


class Serving:
    """A sheet made of files that change."""

    def __init__(
        self,
        files: list[str],
        *,
        editors: list[str] | None,
        data: str | None,
        record: str,
        mark: str,
        themes: list[str] | None,
        widths: tuple[int, ...],
        folders: tuple[Path, ...],
    ) -> None:
        """Name the files.

        Raises:
            InputError: one of them is not there.
        """
        self._files, self._data, self._record, self._mark = files, data, record, mark
        self._editors, self._themes, self._widths, self._folders = editors, themes, widths, folders
        for name in (*files, *([data] if data else [])):
            if not Path(name).is_file():
                raise InputError(f"{name}: there is no such file. Give a file: what is watched has to be one.")

    def run(self, port: int) -> None:
        """Serve until interrupted."""
        try:
            from verse_tray.preview.live import Board, serve
        except ImportError as error:
            raise InputError(
                f"the live preview needs the package {error.name}. Install it with: pip install 'verse-tray[live]'"
            ) from None
        from verse_tray.preview.live.serve import Watched

        files = [Path(name) for name in (*self._files, *([self._data] if self._data else []))]
        home = files[0].resolve().parent
        watched = Watched(tuple(files), tuple(self._profiles()), (home, *self._folders))
        with suppress(KeyboardInterrupt):
            serve(
                lambda: Board(self.make, self.empty),
                watched,
                port,
                lambda address: note(f"{self._files[0]} is shown at {address} and kept up to date. Ctrl-C ends it."),
            )
        note("Stopped.")

    def _profiles(self) -> list[Path]:
        """Return the folders of profiles that were given as paths: those that come with the program do not change."""
        given = [Path(name.partition(":")[0]) for name in self._editors or ()]
        return [path if path.is_dir() else path.parent for path in given if path.exists()]

    def make(self) -> str:
        """Return the sheet.

        Raises:
            VerseTrayError: something is wrong with one of the files.
        """
        wanted = Wanted(
            self._files[0],
            editors=self._editors,
            sides=(),
            widths=self._widths,
            themes=self._themes,
            folders=self._folders,
            piece=self._piece(),
        )
        script = _SCRIPT.read_text("utf-8")
        return sheet(wanted.journeys, wanted.pictures(stored=True), wanted.shown, script=script, sends="'self'")

    def empty(self) -> str:
        """Return a page without views, for when there is no sheet yet."""
        from verse_tray.preview.pages.local_pictures import LocalPictures
        from verse_tray.preview.sheet.sheet import framed
        from verse_tray.preview.sheet.store import Store

        about = "Nothing can be shown yet. This page changes by itself once the fault is mended."
        script, store = _SCRIPT.read_text("utf-8"), Store(LocalPictures())
        title = Path(self._files[0]).name
        return framed(title, about=about, overview="", rows="", store=store, script=script, sends="'self'")

    def _piece(self) -> Piece:
        piece = read_piece(self._files[0])
        if len(self._files) > 1:
            from verse_tray.join.paste import join

            joined = join([read_source(name) for name in self._files], [])
            piece = Piece(Source(joined.fragment(), self._files[0]))
        if self._data is not None:
            from verse_tray.cli.filling import record_number
            from verse_tray.fields.fill import Template
            from verse_tray.fields.marks import mark_form
            from verse_tray.tabular.records import read_records

            records = read_records(read_text(self._data), self._data)
            filled = Template(piece.source, mark_form(self._mark)).fill(
                records.rows[record_number(self._record, records)], blank=False
            )
            piece = Piece(Source(filled.text, self._files[0]))
        return piece
