"""``verse-tray preview``."""

from collections.abc import Iterable, Sequence
from enum import StrEnum
from itertools import groupby
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, NamedTuple

import typer

from verse_tray.cli.exits import ExitCode
from verse_tray.cli.options import (
    Data,
    Editors,
    Extremes,
    Fit,
    Mark,
    On,
    PictureFolders,
    Position,
    Record,
    Region,
    Themes,
    Widths,
    needs_data,
    place_asked,
)
from verse_tray.model.findings import Finding, Severity

if TYPE_CHECKING:
    from verse_tray.journeys.journey import Journey
    from verse_tray.preview.trials import Acted
    from verse_tray.tasks.preview import Preview, TrialRequest


class Only(StrEnum):
    """Sides that can be shown alone."""

    WRITTEN = "written"
    EDITOR = "editor"
    PUBLISHED = "published"
    FITTED = "fitted"
    PLACED = "placed"


class Part(StrEnum):
    """Parts of a page that a picture can show."""

    PAGE = "page"
    WINDOW = "window"
    PIECE = "piece"


def command(
    context: typer.Context,
    file: Annotated[str | None, typer.Argument(metavar="FILE", help="File of HTML; - is standard input.")] = None,
    editor: Editors = None,
    out: Annotated[Path | None, typer.Option("-o", "--out", metavar="OUT.html", help="Where the sheet goes.")] = None,
    png: Annotated[
        Path | None, typer.Option("--png", metavar="OUT.png", help="Where a picture goes; needs a browser.")
    ] = None,
    pdf: Annotated[
        Path | None, typer.Option("--pdf", metavar="OUT.pdf", help="Where a PDF goes; needs a browser.")
    ] = None,
    text: Annotated[
        bool, typer.Option("--text", help="Show the piece here, in the terminal, without a browser.")
    ] = False,
    only: Annotated[
        list[Only] | None, typer.Option("--only", help="Show just this side of the piece; may be repeated.")
    ] = None,
    width: Widths = None,
    theme: Themes = None,
    part: Annotated[
        Part,
        typer.Option("--part", help="What the picture of a single view shows: the page, its window, or the piece."),
    ] = Part.PAGE,
    pictures: PictureFolders = None,
    data: Data = None,
    record: Record = None,
    extremes: Extremes = False,
    mark: Mark = "{{NAME}}",
    fit: Fit = False,
    on: On = None,
    region: Region = None,
    position: Position = "",
    render: Annotated[
        bool, typer.Option("--render", help="Measure every view in a browser: what sticks out, how alike it looks.")
    ] = False,
    act: Annotated[
        bool, typer.Option("--act", help="Run the scripts, click the controls, and tell what happens; needs a browser.")
    ] = False,
    click: Annotated[
        list[str] | None,
        typer.Option("--click", metavar="SELECTOR", help="With --act: click these, in this order; may be repeated."),
    ] = None,
    libraries: Annotated[
        Path | None,
        typer.Option(
            "--libraries",
            metavar="FOLDER",
            help="With --act: folder with copies of the libraries that the piece loads, under their own file names.",
        ),
    ] = None,
    longest: Annotated[
        float | None,
        typer.Option(
            "--longest",
            metavar="SECONDS",
            min=1,
            max=3600,
            help="With --act: end the trial in one editor after so many seconds. Left out: 20.",
        ),
    ] = None,
) -> None:
    """Show what readers will see: the piece as written, in the editor and as published.

    All stand in the page of each editor, on a desktop and on a phone. Nothing is fetched, and no script runs unless
    you say --act. Without -o, --png, --pdf, --text or --act a sheet is written beside the file. Where just one view is
    asked for (one editor, --only, one --width), picture and PDF are of that view in its own size. Without a file,
    sheets of the tray in this folder are written, as far as it has changed since.

    \b
    Examples:
      verse-tray preview tide-table.html
      verse-tray preview tide-table.html --text --editor note-field
      verse-tray preview tide-table.html --editor blog-post --theme all --png sheet.png
      verse-tray preview tide-table.html --editor blog-post --only published --width 375 --png phone.png
      verse-tray preview tide-table.html --editor code-box --act --click .next
      verse-tray preview tide-map.html --editor code-box --act --libraries copies
      verse-tray preview tide-table.html --editor course-page --fit
      verse-tray preview tide-table.html --on field-blog:post --region sidebar --position 2
      verse-tray preview letter.html --data volunteers.csv --extremes --editor mail-signoff
    """  # fmt: skip
    from verse_tray.cli.screen import note
    from verse_tray.tasks.fill import filled_views
    from verse_tray.tasks.preview import Preview, PreviewRequest, TrialRequest
    from verse_tray.tasks.side_by_side import cores

    if file is None:
        from verse_tray.cli.tray import preview_tray, tray_asked

        tray_asked(context)
        preview_tray()
        return
    sides = tuple(each.value for each in dict.fromkeys(only or ()))
    widths = tuple(dict.fromkeys(width or ()))
    needs_data(data, record, extremes=extremes)
    fill = None if data is None else filled_views(file, data, record=record, extremes=extremes, mark=mark)
    request = PreviewRequest(
        file, tuple(editor or ()), sides, widths, tuple(theme or ()), tuple(pictures or ()), fill, fit,
        place_asked((file,), on, region, position, editor), cores(),
    )  # fmt: skip
    preview = Preview(request)
    for name, given in (("--click", click), ("--libraries", libraries), ("--longest", longest)):
        if given is not None and not act:
            raise typer.BadParameter("goes with --act", param_hint=name)
    for name, finding in _missing(preview):
        note(f"{name}:{finding.line}:{finding.column}: {finding.message}")
    if text:
        _show_in_terminal(preview)
    trial = TrialRequest(tuple(click or ()), libraries, longest)
    acted = _act(preview, trial) if act else {}
    if out or png or pdf or not (text or act):
        _write_views(preview, acted, _Targets(out, png, pdf), part, render=render)
    if any(each.severity is Severity.ERROR for tried in acted.values() for each in tried.findings):
        raise typer.Exit(ExitCode.FOUND)


class _Targets(NamedTuple):
    """Where sheet, picture and PDF go; None for what is not asked for."""

    out: Path | None
    png: Path | None
    pdf: Path | None


def _missing(preview: "Preview") -> Sequence[tuple[str, Finding]]:
    """Return what could not be filled in."""
    if preview.request.fill is None:
        return ()
    assert preview.journeys
    return [each for each in preview.missing if each[1].severity is not Severity.NOTE]


def _write_views(preview: "Preview", acted: "dict[str, Acted]", targets: _Targets, part: Part, *, render: bool) -> None:
    """Write what is asked for; a sheet beside the file where nothing is."""
    from verse_tray.tasks.preview import Outputs

    out, png, pdf = targets
    if part is not Part.PAGE and not (png and preview.single):
        told = "goes with --png of a single view: one --editor, one --only, one --width"
        raise typer.BadParameter(told, param_hint="--part")
    if not (out or png or pdf):
        file = preview.request.file
        out = Path("piece.preview.html") if file == "-" else Path(file).with_suffix(".preview.html")
    outputs = Outputs(out is not None, png is not None, pdf is not None, part.value, render)
    made = preview.made(outputs, acted, _progress)
    for path, data in ((out, made.sheet), (png, made.png), (pdf, made.pdf)):
        if path is not None and data is not None:
            _write(path, data, "open it in a browser" if path is out else "")


def _write(path: Path, data: bytes, advice: str) -> None:
    from verse_tray.cli.screen import note
    from verse_tray.tasks.outputs import write_whole

    write_whole(path, data)
    note(f"Wrote {path}: {advice}." if advice else f"Wrote {path}.")


def _progress(journeys: "Sequence[Journey]", doing: str) -> "Iterable[Journey]":
    from verse_tray.cli.screen import with_progress

    return with_progress(journeys, len(journeys), doing, many=2)


def _show_in_terminal(preview: "Preview") -> None:
    """Print the piece as readers get it, or the sides that are wanted."""
    from verse_tray.cli.screen import console, show
    from verse_tray.reports.terminal import piece_views

    screen = console()
    for name, journeys in groupby(preview.journeys, key=lambda each: each.piece.source.name):
        if len({each.piece.source.name for each in preview.journeys}) > 1:
            show(screen, [f"{name}", ""])
        more = [side for side in preview.sides if side in ("fitted", "placed")]
        sides = preview.sides if preview.request.sides else ["published", *more]
        shown = list(journeys)
        besides: dict[str, list[Journey]] = {}
        for (row, side), each in preview.besides.items():
            if preview.rows[row] in shown:
                besides.setdefault(side, []).append(each.journey)
        show(screen, piece_views(shown, sides, screen.width, besides))


def _act(preview: "Preview", trial: "TrialRequest") -> "dict[str, Acted]":
    """Print what the piece does, in one editor after the other, and return it by the editor's name."""
    from verse_tray.cli.screen import console, show
    from verse_tray.reports.trial_text import trial_text

    screen = console()
    found = {}
    for name, (journey, acted) in zip(preview.rows, preview.act(trial, _progress), strict=True):
        if name != journey.editor.name:
            show(screen, [journey.piece.source.name])
        show(screen, trial_text(journey, acted))
        found[name] = acted
    return found
