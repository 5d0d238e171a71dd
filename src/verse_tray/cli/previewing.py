"""What ``verse-tray preview`` does with a piece once it knows what is wanted."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from verse_tray.cli.files import chosen_editors, note, read_piece, with_progress, write_whole
from verse_tray.editors.themes import chosen_themes, themes
from verse_tray.journeys.journey import Journey, journey
from verse_tray.piece.piece import Piece
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import SIDES, Side, journey_page
from verse_tray.preview.sheet import NARROW, WIDE, Shown, sheet

if TYPE_CHECKING:
    from verse_tray.preview.browser import Session
    from verse_tray.preview.measuring.render import Rendered
    from verse_tray.preview.trials import Acted


class Wanted:
    """The piece, and which views of it."""

    def __init__(
        self,
        file: str,
        *,
        editors: list[str] | None,
        sides: tuple[str, ...],
        widths: tuple[int, ...],
        themes: list[str] | None,
        folders: tuple[Path, ...] = (),
        piece: Piece | None = None,
    ) -> None:
        """Say what is wanted; ``piece`` is what was made of the file, if it is not what stands in it."""
        self.file = file
        self._piece = piece
        self.asked = sides
        """The sides that were named."""
        self.sides: tuple[Side, ...] = tuple(side for side in SIDES if side in sides) or SIDES
        self.widths = widths or (WIDE, NARROW)
        self._editors = editors
        self._themes = themes
        self._folders = folders

    @cached_property
    def journeys(self) -> tuple[Journey, ...]:
        """The journeys of the piece."""
        piece = self._piece or read_piece(self.file)
        return tuple(journey(piece, editor) for editor in chosen_editors(self._editors))

    @cached_property
    def shown(self) -> Shown:
        """What a sheet shows."""
        editors = [each.editor for each in self.journeys]
        chosen = chosen_themes(editors, self._themes)
        looks = {}
        for editor in editors:
            known = themes(editor) if self._themes else {Path(editor.profile.theme).stem: editor.theme}
            looks[editor.name] = {name: known[name] for name in chosen[editor.name]}
        return Shown(self.sides, self.widths, looks)

    def pictures(self, *, stored: bool) -> LocalPictures:
        """Return where the piece's pictures are."""
        home = None if self.file == "-" else Path(self.file).parent
        return LocalPictures(home, self._folders, stored=stored)

    @property
    def single(self) -> bool:
        """Whether this is just one view."""
        looks = self.shown.themes.values()
        return len(self.journeys) == len(self.sides) == len(self.widths) == 1 and all(len(look) == 1 for look in looks)


class Output(NamedTuple):
    """Where results go, and what they show."""

    out: Path | None
    png: Path | None
    pdf: Path | None
    part: str
    """Part of the page that a picture of a single view shows."""
    render: bool
    """Whether a browser measures every view."""


def write_preview(wanted: Wanted, output: Output, acted: dict[str, Acted]) -> None:
    """Write the sheet, its picture and its PDF; picture and PDF are of the view itself when it is the only one."""
    if output.part != "page" and not (output.png and wanted.single):
        from typer import BadParameter

        told = "goes with --png of a single view: one --editor, one --only, one --width"
        raise BadParameter(told, param_hint="--part")
    if not any((output.out, output.png, output.pdf)):
        beside = Path("piece.preview.html") if wanted.file == "-" else Path(wanted.file).with_suffix(".preview.html")
        output = output._replace(out=beside)
    if output.png or output.pdf or output.render:
        from concurrent.futures import ThreadPoolExecutor

        from verse_tray.preview.browser import Session

        with ThreadPoolExecutor(1) as pool:  # a browser takes its time to start: the pages are made meanwhile
            made = pool.submit(_made, wanted, output, acted)
            with Session() as session:
                if isinstance(page := made.result(), _View):
                    _write_view(session, page, output)
                else:
                    sheet_text = page or _sheet(wanted, _look(session, wanted), acted)
                    _write_sheet(sheet_text, output, session)
    else:
        _write_sheet(_sheet(wanted, {}, acted), output, None)


class _View(NamedTuple):
    html: str
    width: int


def _made(wanted: Wanted, output: Output, acted: dict[str, Acted]) -> _View | str:
    """Return what can be made without a browser: the only view, or the sheet; nothing yet where one has to look."""
    if wanted.single and not (output.render or acted or output.out):
        only = wanted.journeys[0]
        (css,) = wanted.shown.themes[only.editor.name].values()
        return _View(journey_page(only, wanted.sides[0], css, wanted.pictures(stored=False)).html, wanted.widths[0])
    return "" if output.render else _sheet(wanted, {}, acted)


def _look(session: Session, wanted: Wanted) -> dict[str, Rendered]:
    from verse_tray.cli.looking import renderer

    render = renderer()
    pictures = wanted.pictures(stored=False)
    seen = {}
    for each in with_progress(wanted.journeys, len(wanted.journeys), "Looking", many=2):
        looks = wanted.shown.themes[each.editor.name]
        seen[each.editor.name] = render(session, each, looks, wanted.widths, pictures, compare=True)
    return seen


def _sheet(wanted: Wanted, rendered: dict[str, Rendered], acted: dict[str, Acted]) -> str:
    return sheet(wanted.journeys, wanted.pictures(stored=True), wanted.shown, rendered=rendered, acted=acted)


def _write_sheet(made: str, output: Output, session: Session | None) -> None:
    if output.out is not None:
        write_whole(output.out, made.encode("utf-8", "replace"))
        note(f"Wrote {output.out}: open it in a browser.")
    if session is None:
        return
    from verse_tray.preview.browser.screenshots import sheet_pdf, sheet_picture

    for path, take in ((output.png, sheet_picture), (output.pdf, sheet_pdf)):
        if path is not None:
            write_whole(path, take(session, made))
            note(f"Wrote {path}.")


def _write_view(session: Session, view: _View, output: Output) -> None:
    from verse_tray.preview.browser.screenshots import view_pdf, view_picture

    if output.png is not None:
        write_whole(output.png, view_picture(session, view.html, view.width, output.part))
        note(f"Wrote {output.png}.")
    if output.pdf is not None:
        write_whole(output.pdf, view_pdf(session, view.html, view.width))
        note(f"Wrote {output.pdf}.")


def show_in_terminal(wanted: Wanted) -> None:
    """Print the piece as readers get it, or the sides that are wanted."""
    from verse_tray.cli.files import console, show
    from verse_tray.reports.terminal import readings

    screen = console()
    sides = wanted.asked or ("published",)
    show(screen, readings(wanted.journeys, sides, screen.width))


def act_out(wanted: Wanted, clicked: tuple[str, ...]) -> dict[str, Acted]:
    """Print what the piece does, in one editor after the other, and return it by the editor's name."""
    from verse_tray.cli.files import console, show
    from verse_tray.preview.browser import Session
    from verse_tray.preview.trials import act
    from verse_tray.reports.acting_text import acting_text

    screen = console()
    found = {}
    for each in with_progress(wanted.journeys, len(wanted.journeys), "Trying", many=2):
        (css, *_) = wanted.shown.themes[each.editor.name].values()
        with Session() as session:
            acted = act(session, each, css, wanted.pictures(stored=False), clicked=clicked, width=wanted.widths[0])
        show(screen, acting_text(each, acted))
        found[each.editor.name] = acted
    return found
