"""``verse-tray fit``."""

from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.options import Format, Threshold, only_options

if TYPE_CHECKING:
    from verse_tray.fitting.fit import Fitted
    from verse_tray.fitting.icons import Icons
    from verse_tray.piece.piece import Piece


class Difference(StrEnum):
    """Forms in which what differs is shown."""

    COLUMNS = "columns"
    UNIFIED = "unified"


class Keep(StrEnum):
    """Whose look is kept."""

    DESKTOP = "desktop"
    PHONE = "phone"


def command(
    context: typer.Context,
    file: Annotated[str | None, typer.Argument(metavar="FILE", help="The piece; - is standard input.")] = None,
    editor: Annotated[
        list[str] | None,
        typer.Option("--editor", metavar="NAME", help="Editor by name, folder or TOML file, or all; may be repeated."),
    ] = None,
    only: Annotated[
        list[str] | None, typer.Option("--only", metavar="STRATEGY", help="Use no other strategy; may be repeated.")
    ] = None,
    without: Annotated[
        list[str] | None, typer.Option("--without", metavar="STRATEGY", help="Do not use it; may be repeated.")
    ] = None,
    together: Annotated[
        bool, typer.Option("--one", help="Make one text that does best in all of these editors at once.")
    ] = False,
    keep: Annotated[
        Keep, typer.Option("--keep", help="Whose look is kept, where a piece has two and only one can be.")
    ] = Keep.DESKTOP,
    format: Annotated[
        Format, typer.Option("--format", help="The fitted piece, or what was done, with the texts, as JSON.")
    ] = Format.TEXT,
    show_as: Annotated[
        Difference | None,
        typer.Option("--show", help="Show what differs from the piece as written, in place of the fitted one."),
    ] = None,
    icons: Annotated[
        str | None,
        typer.Option(
            "--icons",
            metavar="ADDRESS",
            help="Draw icons (SVG) that an editor does not keep as pictures beside -o, to be hosted at this address; "
            "needs a browser.",
        ),
    ] = None,
    fail_on: Annotated[
        Threshold, typer.Option("--fail-on", help="Worst of what readers get afterwards that exits with 1.")
    ] = Threshold.DAMAGED,
    store: Annotated[
        Path | None,
        typer.Option(
            "--from",
            metavar="STORE",
            exists=True,
            dir_okay=False,
            help="Repair what an audit found damaged or broken: its pieces go into the folder -o, each explained.",
        ),
    ] = None,
    where: Annotated[
        str, typer.Option("--where", metavar="FILTER", help="With --from: only these, as audit has it.")
    ] = "",
    workers: Annotated[
        int, typer.Option("--workers", min=0, max=256, help="With --from: processes that work at once; 0: all cores.")
    ] = 0,
    out: Annotated[
        Path | None,
        typer.Option("-o", "--out", metavar="PATH", help="File to write to; for several editors a folder."),
    ] = None,
) -> None:
    """Rewrite a piece so that readers of an editor's page get as much of it as can be, and say what that took.

    Ways of rewriting are tried together, then each is left out as long as readers lose nothing by that; they are
    always held against what you wrote. A piece that nothing improves comes back byte for byte. One that is too large is
    made shorter, and parted into several pastes if need be: they are written beside -o, numbered. Without a file, the
    pieces of the tray in this folder are fitted to their places, as far as they have changed since.

    \b
    Examples:
      verse-tray fit low-water-walk.html --editor shop-description -o shop.html
      verse-tray fit low-water-walk.html --editor article | verse-tray check - --editor article
      verse-tray fit low-water-walk.html --editor all -o fitted
      verse-tray fit low-water-walk.html --editor article --editor course-page --one -o both.html
      verse-tray fit sign-off.html --editor mail-signoff --icons https://pictures.example.org/ -o mail.html
      verse-tray fit low-water-walk.html --editor course-page --show columns
      verse-tray fit low-water-walk.html --editor course-page --without made-text
      verse-tray fit --from audit.sqlite --where 'editor=course-page' -o repaired
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, explain, print_raw, show, with_progress, write_result
    from verse_tray.editors.load import known_editors
    from verse_tray.model.errors import InputError
    from verse_tray.model.findings import Verdict
    from verse_tray.reports.before_after import fitted as difference
    from verse_tray.reports.fit_text import fit_json, fit_lines, together_lines
    from verse_tray.tasks.files import read_piece
    from verse_tray.tasks.fit import FitRequest, fit_piece, mended_by_browsers
    from verse_tray.tasks.side_by_side import cores

    of_store = store is not None or where or workers
    if of_store or file is None or not editor:
        (_fit_store if of_store else _fit_tray)(context)
        return
    many = len(set(editor)) > 1 or "all" in editor
    together, several = together and many, many and not together
    if several and out is None and format is Format.TEXT and show_as is None:
        raise InputError("several editors: name a folder for the pieces with -o, or ask for --format json, or --one.")
    if several and out is not None and format is Format.TEXT and out.exists() and not out.is_dir():
        raise InputError(f"-o {out}: this is a file. For several editors name a folder, which is made if need be.")
    if show_as is not None and (out is not None or format is Format.JSON):
        raise typer.BadParameter("shows the difference on the screen: leave out -o and --format", param_hint="--show")
    piece, screen = read_piece(file), console()
    drawn = _drawn(piece, editor, icons, out, several=several) if icons is not None else None
    phone = keep is Keep.PHONE
    request = FitRequest(tuple(editor), tuple(only or ()), tuple(without or ()), together, drawn, phone, cores())
    if broken := mended_by_browsers(piece):
        first = f"{broken[0].line}:{broken[0].column} {broken[0].message}"
        more = f" And {len(broken) - 1} more." if len(broken) > 1 else ""
        explain([f"{piece.source.name}: {first}{more} It is fitted as browsers read it."])

    def deliver(fitted: "Fitted", to: Path | None) -> None:
        if show_as is not None:
            show(screen, difference(piece.source.text, fitted.after.text, in_columns=show_as is Difference.COLUMNS))
        elif format is Format.TEXT:
            _write(piece, fitted, to)

    fits: list[Fitted] = []
    count = len(known_editors()) if "all" in editor else len(editor)
    for fitted in with_progress(fit_piece(piece, request), count, "Fitting", 2):
        fits.append(fitted)
        if not together:
            explain(fit_lines(fitted))
            name = f"{fitted.before.journey.editor.name.replace(':', '-')}.html"
            deliver(fitted, out / name if several and out is not None else out)
    if together:
        explain(together_lines(fits))
        deliver(fits[0], out)
    if format is Format.JSON:
        if out is None:
            print_raw(fit_json(fits))
        else:
            write_result(fit_json(fits).encode(), out)
    worst = max((each.verdict.rank for each in fits), default=0)
    if fail_on is not Threshold.NEVER and worst >= Verdict(fail_on.value).rank:
        raise typer.Exit(ExitCode.FOUND)


def _fit_store(context: typer.Context) -> None:
    """Repair what an audit found."""
    from verse_tray.cli.fit_archive import fit_archive

    given = context.params
    if given["store"] is None:
        raise typer.BadParameter("go with --from", param_hint="--where, --workers")
    only_options(context, "goes without --from", "store", "where", "workers", "editor", "out", "fail_on")
    if given["file"] is not None:
        raise typer.BadParameter("the pieces come from the store: leave the file out", param_hint="--from")
    out = None if given["out"] is None else Path(given["out"])
    editors, fail_on = given["editor"] or [], Threshold(given["fail_on"])
    fit_archive(Path(given["store"]), given["where"], given["workers"], editors, out, fail_on.value)


def _fit_tray(context: typer.Context) -> None:
    """Fit the tray of this folder, where no file is named."""
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.tray import fit_tray, tray_asked
    from verse_tray.model.findings import Verdict

    if context.params["file"] is not None:
        raise typer.BadParameter("name the editor that the piece goes into, or all", param_hint="--editor")
    tray_asked(context, "fail_on")
    fail_on = Threshold(context.params["fail_on"])
    if fit_tray(None if fail_on is Threshold.NEVER else Verdict(fail_on.value)):
        raise typer.Exit(ExitCode.FOUND)


def _drawn(piece: "Piece", editors: list[str], at: str, out: Path | None, *, several: bool) -> "Icons":
    """Draw icons, write the pictures beside the fitted piece, and say which are to be hosted."""
    from verse_tray.cli.screen import note
    from verse_tray.editors.chosen import chosen_editors
    from verse_tray.tasks.icons import drawn_icons
    from verse_tray.tasks.outputs import write_whole

    if out is None:
        raise typer.BadParameter("writes pictures beside the piece: name a file with -o", param_hint="--icons")
    if not at.lower().startswith(("https://", "http://")):
        raise typer.BadParameter("takes the address of the folder where they will be: https://…", param_hint="--icons")
    stem = Path(piece.source.name).stem.strip("-") or "piece"
    drawn = drawn_icons(piece, chosen_editors([] if "all" in editors else editors), at, stem)
    folder = out if several else out.parent
    for name, data in drawn.files.items():
        write_whole(folder / name, data)
    if drawn.files:
        note(f"Drawn, to be hosted at {at}: {', '.join(str(folder / name) for name in drawn.files)}.")
    return drawn.icons


def _write(piece: "Piece", fitted: "Fitted", out: Path | None) -> None:
    """Write a fitted piece; several pastes into numbered files."""
    from verse_tray.cli.screen import note, write_result
    from verse_tray.model.errors import InputError

    if len(fitted.texts) == 1:
        write_result(piece.source.encode(fitted.texts[0]), out)
        return
    if out is None:
        raise InputError("it takes several pastes: name a file with -o, and they are written beside it, numbered.")
    for number, text in enumerate(fitted.texts, 1):
        path = out.with_name(f"{out.stem}-{number}{out.suffix}")
        write_result(piece.source.encode(text), path)
    note(f"  pastes, in order: {out.stem}-1{out.suffix} to {out.stem}-{len(fitted.texts)}{out.suffix}")
