"""Views of a piece: sheets, pictures and PDFs of them, and what comes of trying a piece out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import Executor, ThreadPoolExecutor
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from msgspec import Struct

from verse_tray.editors.chosen import chosen_editors
from verse_tray.editors.themes import chosen_looks
from verse_tray.journeys.journey import Journey
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding
from verse_tray.piece.piece import Piece
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import SIDES, Side, journey_page
from verse_tray.preview.sheet import NARROW, WIDE, Besides, Shown, row_names, sheet
from verse_tray.tasks.files import home_of, read_piece
from verse_tray.tasks.fill import Filling, FillRequest
from verse_tray.tasks.journeys import journeys_of
from verse_tray.tasks.place import PlaceRequest

if TYPE_CHECKING:
    from verse_tray.fitting.fit import Fitted
    from verse_tray.place.views import PlacedView
    from verse_tray.preview.browser import Session, SteadySession
    from verse_tray.preview.measuring.render import Rendered
    from verse_tray.preview.trials import Acted

Progress = Callable[[Sequence[Journey], str], Iterable[Journey]]
"""Passes journeys on while a word says what is being done to them."""


class PreviewRequest(Struct, frozen=True):
    """A piece, and which views of it are wanted."""

    file: str
    """The piece."""
    editors: tuple[str, ...] = ()
    """Editors by name or path; none at all for every known one."""
    sides: tuple[str, ...] = ()
    """Sides that were named; none at all for every side."""
    widths: tuple[int, ...] = ()
    """Widths of the windows in CSS pixels; none at all for a desktop and a phone."""
    themes: tuple[str, ...] = ()
    """Themes of the sites; none at all for the usual ones."""
    folders: tuple[Path, ...] = ()
    """Folders with copies of its pictures."""
    fill: FillRequest | None = None
    """What its marks are filled with; None for nothing."""
    fit: bool = False
    """Whether what readers get once it was fitted has a side of its own."""
    place: PlaceRequest | None = None
    """Where on a site it is to stand; None to look at it in the pages of editors."""
    processes: int = 1
    """How many processes work on it at a time, see :func:`verse_tray.tasks.side_by_side.cores`."""


class Outputs(Struct, frozen=True):
    """What is made of the views."""

    sheet: bool = True
    """Whether a sheet is wanted."""
    png: bool = False
    """Whether a picture is: of the sheet, or of the view when it is the only one."""
    pdf: bool = False
    """Whether a PDF is, likewise."""
    part: str = "page"
    """Part of the page that a picture of a single view shows: ``page``, ``window`` or ``piece``."""
    render: bool = False
    """Whether a browser measures every view."""


class TrialRequest(Struct, frozen=True):
    """How a piece is tried out."""

    clicked: tuple[str, ...] = ()
    """Selectors of what is clicked, in order; none at all for every control."""
    libraries: Path | None = None
    """Folder with copies of the libraries that it loads."""
    longest: float | None = None
    """Seconds after which a trial is ended; None for the usual ones."""


class Previewed(Struct, frozen=True):
    """What was made; None for what was not asked for."""

    sheet: bytes | None = None
    png: bytes | None = None
    pdf: bytes | None = None


class Preview:
    """The views of one piece."""

    def __init__(self, request: PreviewRequest, piece: Piece | None = None) -> None:
        """Say what is wanted; ``piece`` is what was made of the file, if it is not what stands in it."""
        self.request = request
        self._piece = piece
        self.missing: list[tuple[str, Finding]] = []
        """What could not be filled in, with the piece that it is about; known once there are journeys."""
        more: list[Side] = ["fitted"] if request.fit or "fitted" in request.sides else []
        more += ["placed"] if request.place is not None else []
        usual: tuple[Side, ...] = ("written", "published") if request.place is not None else SIDES
        wanted = {*request.sides, *(["fitted"] if request.fit else [])} if request.sides else {*usual, *more}
        self.sides: tuple[Side, ...] = tuple(side for side in (*SIDES, *more) if side in wanted)
        """The sides that are shown."""
        self.widths = request.widths or (WIDE, NARROW)
        """The widths that are shown."""

    @cached_property
    def journeys(self) -> tuple[Journey, ...]:
        """The journeys of the piece."""
        if self._views:
            return tuple(each.whole for each in self._views)
        editors = chosen_editors(self.request.editors)
        of_pieces = (journeys_of(piece, editors, self.request.processes) for piece in self._pieces())
        return tuple(each for journeys in of_pieces for each in journeys)

    @cached_property
    def _views(self) -> list[PlacedView]:
        """The piece in the regions where it is to stand; none where it is looked at in the pages of editors."""
        if self.request.place is None:
            return []
        from verse_tray.place.views import views_of
        from verse_tray.tasks.place import place_pieces

        pieces = list(self._pieces())
        return [view for placement in place_pieces(self.request.place, pieces) for view in views_of(placement)]

    def _pieces(self) -> Iterator[Piece]:
        """Yield the piece, or what it becomes with the values of each record that was asked for."""
        piece = self._piece or read_piece(self.request.file)
        if self.request.fill is None:
            yield piece
            return
        filling = Filling(self.request.fill, piece)
        source = piece.source
        for each in filling.filled():
            name = source.name + (filling.title(each.number) if len(filling.chosen) > 1 else "")
            self.missing += [(name, finding) for finding in each.filled.findings]
            yield Piece(source.edited(each.filled.text, name))

    @property
    def rows(self) -> dict[str, Journey]:
        """The journeys by the names of their rows in a sheet."""
        return dict(zip(row_names(self.journeys), self.journeys, strict=True))

    @cached_property
    def shown(self) -> Shown:
        """What a sheet shows."""
        looks = chosen_looks([each.editor for each in self.journeys], self.request.themes)
        return Shown(self.sides, self.widths, looks, self.besides)

    @cached_property
    def besides(self) -> dict[tuple[str, Side], Besides]:
        """What becomes of the piece once it was fitted or placed, by the names of the rows and the sides."""
        found: dict[tuple[str, Side], Besides] = {
            (name, "fitted"): Besides(each.after.journey, each.share) for name, each in self.fitted.items()
        }
        for name, view in zip(self.rows, self._views, strict=False):
            found[name, "placed"] = Besides(view.placed, view.share)
        return found

    @cached_property
    def fitted(self) -> dict[str, Fitted]:
        """What becomes of the piece once it was fitted, by the names of the rows; nothing where that is not shown."""
        if "fitted" not in self.sides:
            return {}
        from verse_tray.fitting.fit import fit

        return {name: fit(each.piece, each.editor) for name, each in self.rows.items()}

    def pictures(self, *, stored: bool) -> LocalPictures:
        """Return where the piece's pictures are."""
        return LocalPictures(home_of(self.request.file), self.request.folders, stored=stored)

    @property
    def single(self) -> bool:
        """Whether this is just one view."""
        looks = self.shown.themes.values()
        return len(self.journeys) == len(self.sides) == len(self.widths) == 1 and all(len(look) == 1 for look in looks)

    def act(self, trial: TrialRequest, progress: Progress) -> Iterator[tuple[Journey, Acted]]:
        """Try the piece out, and yield what it does in one editor after the other, in the order of the rows.

        Args:
            trial: How it is tried out.
            progress: What is told of the work.

        Raises:
            BrowserError: there is no browser, or it failed.
            InputError: there is no such folder of libraries.
        """
        if trial.libraries is not None and not trial.libraries.is_dir():
            raise InputError(f"{trial.libraries}: there is no such folder. Name one with copies of the libraries.")
        from verse_tray.preview.browser import Session
        from verse_tray.preview.trials import act

        placed = {id(each.whole): each.placed for each in self._views}
        with Session() as session:
            for number, each in enumerate(progress(self.journeys, "Trying")):
                (css, *_) = self.shown.themes[each.editor.name].values()
                if number:
                    session.renew()
                acted = act(
                    session,
                    placed.get(id(each), each),
                    css,
                    self.pictures(stored=False),
                    clicked=trial.clicked,
                    width=self.widths[0],
                    libraries=trial.libraries,
                    longest=trial.longest,
                )
                yield each, acted

    def made(self, outputs: Outputs, acted: Mapping[str, Acted], progress: Progress) -> Previewed:
        """Make what is wanted.

        Args:
            outputs: What that is.
            acted: What came of trying the piece out, by the name of the row.
            progress: What is told of the work.

        Raises:
            BrowserError: there is no browser, or it failed.
        """
        if not (outputs.png or outputs.pdf or outputs.render):
            return Previewed(self._sheet({}, acted))
        from verse_tray.preview.browser import SteadySession
        from verse_tray.preview.browser.find import load_driver

        load_driver()  # first: an interrupted import beside those of a thread can stop both for good
        with ThreadPoolExecutor(1) as pool:  # a browser takes its time to start: the pages are made meanwhile
            ahead = pool.submit(self._ahead, outputs, acted)
            with SteadySession() as browser:
                if isinstance(page := ahead.result(), _View):
                    view = page
                    return browser.do(lambda session: _of_view(session, view, outputs))
                made = page or self._sheet(self._look(browser, pool, progress), acted)
                return browser.do(lambda session: _of_sheet(session, made, outputs))

    def _ahead(self, outputs: Outputs, acted: Mapping[str, Acted]) -> _View | bytes:
        """Return what can be made without a browser: the only view, or the sheet; nothing where one has to look."""
        if self.single and not (outputs.render or acted or outputs.sheet):
            only = self.journeys[0]
            (css,) = self.shown.themes[only.editor.name].values()
            journey = next((each.journey for (_, side), each in self.besides.items() if side == self.sides[0]), only)
            page = journey_page(journey, self.sides[0], css, self.pictures(stored=False))
            return _View(page.in_window(self.widths[0]).html, self.widths[0])
        return b"" if outputs.render else self._sheet({}, acted)

    def _look(self, browser: SteadySession, pool: Executor, progress: Progress) -> dict[str, Rendered]:
        from verse_tray.tasks.looking import observer

        observe = observer()
        pictures = self.pictures(stored=False)
        seen = {}
        names = {id(each): name for name, each in self.rows.items()}
        for each in progress(self.journeys, "Looking"):
            looks = self.shown.themes[each.editor.name]
            name = names[id(each)]
            look = partial(observe, journey=each, themes=looks, widths=self.widths, pictures=pictures, pool=pool)
            seen[name] = browser.do(look)
        return {name: told() for name, told in seen.items()}

    def _sheet(self, rendered: Mapping[str, Rendered], acted: Mapping[str, Acted]) -> bytes:
        return sheet(self.journeys, self.pictures(stored=True), self.shown, rendered=rendered, acted=acted)


class _View(NamedTuple):
    html: str
    width: int


def _of_sheet(session: Session, made: bytes, outputs: Outputs) -> Previewed:
    from verse_tray.preview.browser.screenshots import sheet_pdf, sheet_picture

    return Previewed(
        made if outputs.sheet else None,
        sheet_picture(session, made) if outputs.png else None,
        sheet_pdf(session, made) if outputs.pdf else None,
    )


def _of_view(session: Session, view: _View, outputs: Outputs) -> Previewed:
    from verse_tray.preview.browser.screenshots import view_pdf, view_picture

    return Previewed(
        None,
        view_picture(session, view.html, view.width, outputs.part) if outputs.png else None,
        view_pdf(session, view.html, view.width) if outputs.pdf else None,
    )
