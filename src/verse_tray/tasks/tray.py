"""A tray at work: its pieces put together, checked, fitted, previewed and placed, as far as they have changed since."""

from __future__ import annotations

import re
import subprocess
import sys
from collections.abc import Callable, Iterable, Iterator
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from verse_tray import __version__
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Severity
from verse_tray.tasks.outputs import write_whole
from verse_tray.trays.keys import piece_key
from verse_tray.trays.load import FILE as TRAY_FILE
from verse_tray.trays.load import LoadedTray, load_tray
from verse_tray.trays.memory import encoded
from verse_tray.trays.records import Spot, TrayPiece
from verse_tray.trays.state import FILE, Checked, State, load_state

if TYPE_CHECKING:
    from verse_tray.editors.load import Editor
    from verse_tray.piece.piece import Piece
    from verse_tray.place.placement import Placement, Wanted
    from verse_tray.reports.results import PieceResult
    from verse_tray.sites.load import LoadedSite, Where

_LONGEST_MAKE = 120.0  # seconds


class TrayAtWork:
    """A tray with its memory."""

    def __init__(self, folder: Path) -> None:
        """Load it.

        Raises:
            InputError, SettingsError: see :func:`verse_tray.trays.load.load_tray`.
        """
        self.loaded: LoadedTray = load_tray(folder)
        self.folder = folder
        self.state: State = load_state(folder)
        self._keys: dict[str, str] = {}
        self._pieces: dict[str, Piece] = {}
        self._sites: dict[str, LoadedSite] = {}
        self._placements: dict[str, Placement] = {}
        self.notes: list[str] = []
        """What was to be told when its pieces were put together."""

    @property
    def pieces(self) -> dict[str, TrayPiece]:
        """Its pieces by name."""
        return self.loaded.tray.pieces

    def key(self, name: str) -> str:
        """Return the hash of all that the answers about a piece depend on."""
        if name not in self._keys:
            self._keys[name] = piece_key(self.loaded, name, __version__)
        return self._keys[name]

    def changed(self, known: dict[str, Checked]) -> list[str]:
        """Return the pieces that have changed since they were worked on."""
        return [name for name in self.pieces if name not in known or known[name].key != self.key(name)]

    def save(self) -> None:
        """Write its memory; what is remembered of pieces that are gone goes."""
        for known in (self.state.checked, self.state.fitted, self.state.previewed):
            for name in [each for each in known if each not in self.pieces]:
                del known[name]
        write_whole(self.folder / FILE, encoded(self.state), again=True)

    def piece(self, name: str) -> Piece:
        """Return a piece, put together.

        Raises:
            InputError: something of it cannot be used.
        """
        if name not in self._pieces:
            self._pieces[name], notes = _put_together(self.folder, name, self.pieces[name])
            self.notes += [f"{name}: {each}" for each in notes]
        return self._pieces[name]

    @cached_property
    def sites(self) -> dict[str, list[str]]:
        """The pieces that go to each site, by what the site is called in the tray."""
        found: dict[str, list[str]] = {}
        for name, piece in self.pieces.items():
            for spot in piece.on:
                of_site = found.setdefault(site_of(spot.page), [])
                if name not in of_site:
                    of_site.append(name)
        return found

    def placement(self, site: str) -> Placement:
        """Return the pieces of a site in their places.

        Raises:
            UnknownSiteError, SettingsError, InputError: something cannot be used.
        """
        if site not in self._placements:
            from verse_tray.place.placement import place

            wanted = [each for name in self.sites[site] for each in self.wanted(name, site)]
            self._placements[site] = place(wanted[0].where.site, wanted)
        return self._placements[site]

    def where(self, spot: Spot) -> Where:
        """Return the region that a piece goes into.

        Raises:
            UnknownSiteError, SettingsError: see :func:`verse_tray.sites.load.load_site`.
        """
        from verse_tray.sites.load import Where, chosen_page, chosen_region, load_site, split_page

        name, page = split_page(spot.page if self.loaded.beside(spot.page) is None else str(self.folder / spot.page))
        if name not in self._sites:
            self._sites[name] = load_site(name)
        site = self._sites[name]
        page = chosen_page(site, page)
        return Where(site, page, chosen_region(site, page, spot.region))

    def wanted(self, name: str, site: str | None = None) -> list[Wanted]:
        """Return a piece with the places where it is to stand, those on one site or all."""
        from verse_tray.place.placement import Wanted
        from verse_tray.reading.read import DESKTOP, PHONE
        from verse_tray.tasks.fit import chosen_strategies

        record = self.pieces[name]
        fit = record.fit
        strategies = chosen_strategies(fit.only, fit.without, f"{self.folder / TRAY_FILE}: pieces.{name}.fit.")
        width = PHONE if fit.keep == "phone" else DESKTOP
        return [
            Wanted(self.piece(name), self.where(spot), spot.position, record.as_given, strategies, width)
            for spot in record.on
            if site in (None, site_of(spot.page))
        ]

    def editors(self, name: str) -> list[Editor]:
        """Return the editors that a piece is checked in: those of its places, with the site's page, and those named."""
        from verse_tray.editors.load import load_editor
        from verse_tray.place.page import region_editor
        from verse_tray.place.position import position_of
        from verse_tray.place.views import called

        found: list[Editor] = []
        for spot in self.pieces[name].on:
            where = self.where(spot)
            names = [item.name for item in where.of_region.items]
            try:
                index = position_of(where, spot.position, names)
            except InputError:  # before or behind another piece of the tray, which does not stand there yet
                index = len(names)
            found.append(called(region_editor(where, index), where))
        for each in self.pieces[name].editors:
            found.append(load_editor(each if self.loaded.beside(each) is None else str(self.folder / each)))
        return found


def site_of(page: str) -> str:
    """Return what a site is called in a tray, of ``SITE:PAGE``: a name for a folder, whatever it is named by."""
    site = page.rpartition(":")[0] or page
    return re.sub(r"[^\w-]+", "-", site.removesuffix(".toml").removesuffix("/site")).strip("-") or "site"


def _put_together(folder: Path, name: str, record: TrayPiece) -> tuple[Piece, list[str]]:
    """Return a piece (made or joined, its marks filled, hosted addresses in it), and what there is to tell of that."""
    from verse_tray.model.decoding import Source
    from verse_tray.piece.piece import Piece
    from verse_tray.tasks.files import read_piece, read_source

    notes: list[str] = []
    if record.make:
        made, notes = _made(folder, name, record)
        piece = Piece(Source(made, str(folder / f"{name}.html")))
    elif len(record.parts) == 1:
        piece = read_piece(str(folder / record.parts[0]))
    else:
        from verse_tray.join.paste import join

        joined = join([read_source(str(folder / each)) for each in record.parts], list(record.libraries))
        notes = joined.notes
        piece = Piece(Source(joined.fragment(), str(folder / f"{name}.html")))
    if record.values is not None:
        from verse_tray.tasks.fill import Filling, FillRequest

        asked = FillRequest(piece.source.name, str(folder / record.values), record=record.record, mark=record.mark)
        filled = next(Filling(asked, piece).filled()).filled
        notes = [*notes, *(f"{each.line}:{each.column}: {each.message}" for each in filled.findings)]
        piece = Piece(piece.source.edited(filled.text))
    if record.hosted is not None:
        from verse_tray.tasks.pictures import host_pictures

        piece = Piece(piece.source.edited(host_pictures(piece, str(folder / record.hosted)).text))
    return piece, notes


def _made(folder: Path, name: str, record: TrayPiece) -> tuple[str, list[str]]:
    """Return what ``make`` makes, and what it says."""
    command = [sys.executable, "-m", "verse_tray", "make", *record.make]
    where = f"{folder / TRAY_FILE}: pieces.{name}.make: "
    try:
        done = subprocess.run(command, cwd=folder, capture_output=True, timeout=_LONGEST_MAKE, check=False)
    except (OSError, subprocess.TimeoutExpired, ValueError) as error:
        raise InputError(f"{where}{error}") from None
    said = done.stderr.decode("utf-8", "replace").strip()
    if done.returncode:
        raise InputError(f"{where}{said or f'exit code {done.returncode}'}")
    return done.stdout.decode("utf-8", "replace"), said.splitlines()


def check_tray(tray: TrayAtWork, names: Iterable[str]) -> Iterator[PieceResult]:
    """Check pieces in the editors of their places, and remember what comes of it; yield what was found."""
    from verse_tray.tasks.check import CheckRequest, check

    for name in names:
        (result,) = check([tray.piece(name)], CheckRequest(tuple(tray.editors(name))))
        verdicts = {"": result.verdict(None).value}
        verdicts |= {each.editor.name: result.verdict(each).value for each in result.journeys}
        told = [*result.mistakes, *(one for each in result.journeys for one in result.findings(each))]
        grave = sum(each.severity is not Severity.NOTE for each in told)
        tray.state.checked[name] = Checked(tray.key(name), verdicts, grave)
        yield result


def fit_tray(tray: TrayAtWork, told: Callable[[str], None]) -> Iterator[tuple[str, Checked]]:
    """Fit the pieces of a tray that have changed to the editors of their places; yield each with what came of it."""
    from verse_tray.fitting.fit import fit
    from verse_tray.fitting.table import STRATEGIES
    from verse_tray.reading.read import DESKTOP
    from verse_tray.reports.fit_text import fit_lines

    for name in tray.changed(tray.state.fitted):
        verdicts: dict[str, str] = {}
        wanted = {each.where.name: each for each in tray.wanted(name)}
        for editor in tray.editors(name):
            asked = wanted.get(editor.name)
            piece = tray.piece(name)
            strategies = (asked and asked.strategies) or STRATEGIES
            found = fit(piece, editor, strategies, width=asked.width if asked else DESKTOP)
            for line in fit_lines(found):
                told(line)
            stem = editor.name.replace(":", "-")
            for number, text in enumerate(found.texts, 1):
                ending = f"-{number}" if len(found.texts) > 1 else ""
                write_whole(tray.folder / "fitted" / name / f"{stem}{ending}.html", piece.source.encode(text))
            verdicts[editor.name] = found.verdict.value
        tray.state.fitted[name] = Checked(tray.key(name), verdicts)
        tray.save()
        yield name, tray.state.fitted[name]
