"""``verse-tray demo``."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from verse_tray.cli.screen import Screen
    from verse_tray.piece.piece import Piece


def command(
    into: Annotated[
        Path, typer.Option("--into", metavar="FOLDER", help="Folder to write to; it is made if need be.")
    ] = Path("verse-tray-demo"),
    archive: Annotated[
        int,
        typer.Option("--archive", min=0, max=1_000_000, metavar="COUNT", help="Only write a feed of so many posts."),
    ] = 0,
) -> None:
    """Run check, trace, fit, learn, send, verify, place and preview on an example.

    The example is a made-up group that counts tide-pool life, the Gannet Cove Shore Survey.

    \b
    Examples:
      verse-tray demo
      verse-tray demo --into shore-demo
      verse-tray demo --archive 2000 --into shore-archive
    """
    from verse_tray.checks.find import find
    from verse_tray.cli.demo_sending import send_and_verify
    from verse_tray.cli.screen import console, hanging, show
    from verse_tray.demo import example
    from verse_tray.editors.chosen import chosen_editors
    from verse_tray.fitting.fit import fit
    from verse_tray.journeys.journey import journey
    from verse_tray.model.errors import BrowserError, OutputError
    from verse_tray.model.phrasing import as_argument
    from verse_tray.preview.pages.local_pictures import LocalPictures
    from verse_tray.preview.sheet import sheet
    from verse_tray.reports.check_text import report as check_text
    from verse_tray.reports.fit_text import fit_lines
    from verse_tray.reports.formats import Wanted
    from verse_tray.reports.results import PieceResult
    from verse_tray.reports.trace_text import trace_text
    from verse_tray.tasks.files import read_piece
    from verse_tray.tasks.outputs import write_whole

    screen = console()
    if archive:
        from verse_tray.demo.archive import feed

        feed_file = into / "posts.atom"
        write_whole(feed_file, "".join(feed(archive)).encode())
        screen.print(f"Wrote {archive:,} posts into {feed_file}. Audit them:", soft_wrap=True)
        asked = f"{as_argument(str(feed_file))} --editor course-page --into {as_argument(str(into / 'audit.sqlite'))}"
        screen.print(f"  verse-tray audit {asked}", style="bold", soft_wrap=True)
        return
    files = example()
    for name, data in files.items():
        if (into / name).is_file() and (into / name).read_bytes() != data:
            raise OutputError(f"{into / name}: this file differs from the example's. Name another folder with --into.")
        write_whole(into / name, data)
    piece_file = into / "low-water-walk.html"
    screen.print(
        f"Put {len(files)} files into {into}: pieces of the Gannet Cove Shore Survey, their pictures, and a folder for "
        "writing.\n"
    )

    def typed(path: Path) -> str:
        return as_argument(str(path))

    walk = typed(piece_file)
    piece = read_piece(str(piece_file))
    journeys = tuple(journey(piece, editor) for editor in chosen_editors(None))
    screen.print(f"$ verse-tray check {walk}\n", style="bold", soft_wrap=True)
    show(screen, check_text([PieceResult(piece, find(piece), journeys)], Wanted(width=screen.width)))
    course = next(each for each in journeys if each.editor.name == "course-page")
    screen.print(f"$ verse-tray trace {walk} --editor course-page\n", style="bold", soft_wrap=True)
    show(screen, trace_text(course, None, every=False, width=screen.width))
    fitted_file = into / "low-water-walk.fitted.html"
    screen.print(
        f"$ verse-tray fit {walk} --editor course-page -o {typed(fitted_file)}\n", style="bold", soft_wrap=True
    )
    fitted = fit(piece, course.editor)
    write_whole(fitted_file, piece.source.encode(fitted.after.text))
    for line in fit_lines(fitted):
        screen.print(hanging(line, screen.width), soft_wrap=True)
    screen.print()
    _learn(into, screen)
    send_and_verify(into, screen)
    _place(piece, into, screen)
    made = sheet(journeys, LocalPictures(into, (into / "pictures",), stored=True))
    out = into / "low-water-walk.preview.html"
    shown = f"verse-tray preview {walk} --pictures {typed(into / 'pictures')} --png {typed(out.with_suffix('.png'))}"
    screen.print(f"$ {shown}\n", style="bold", soft_wrap=True)
    write_whole(out, made)
    screen.print(f"Open {out} in a browser: every editor, as written, in the editor and as published.")
    screen.print("\nRewritten so that it survives elsewhere:", soft_wrap=True)
    for line in (
        f"fit {walk} --editor all -o {typed(into / 'fitted')}",
        f"fit {walk} --editor article --editor mail-signoff --one -o {typed(into / 'both.html')}",
        f"preview {walk} --editor mail-signoff --fit",
        f"fit {walk} --editor {typed(into / 'survey-forum')}",
    ):
        screen.print(f"  verse-tray {line}", style="bold", soft_wrap=True)
    screen.print("\nOther ways to look at it:", soft_wrap=True)
    for line in (
        f"preview {walk} --text",
        f"check {walk} --editor course-page --render --theme all",
        f"preview {walk} --editor framed-box --act",
        f"live {walk} --editor blog-post",
    ):
        screen.print(f"  verse-tray {line}", style="bold", soft_wrap=True)
    screen.print(f"\nA whole tray, in {into / 'tray'}: several pieces, and where they go:", soft_wrap=True)
    screen.print(f"  cd {typed(into / 'tray')} && verse-tray check; verse-tray place; verse-tray live", style="bold",
                 soft_wrap=True)  # fmt: skip
    themed = "place banner.html --in theme.html --after '<!-- landmark: desktop -->' --after '<!-- landmark: phone -->'"
    screen.print(f"  verse-tray {themed} --write", style="bold", soft_wrap=True)
    writing = into / "writing"
    screen.print(f"\nWhat comes before a check, on the files in {writing}:", soft_wrap=True)
    for line in (
        f"make table {typed(writing / 'tides.csv')} --stripes",
        f"make cards {typed(writing / 'walks.csv')} --for mail-signoff",
        f"join {typed(writing / 'tide-box.html')} {typed(writing / 'tide-box.js')}",
        f"fill {typed(writing / 'letter.html')} --data {typed(writing / 'volunteers.csv')} --extremes",
        f"adjust {walk}",
        f"check {typed(writing / 'in-a-hurry.html')} --fix",
    ):
        screen.print(f"  verse-tray {line}", style="bold", soft_wrap=True)
    try:
        from verse_tray.preview.browser import Session
        from verse_tray.preview.browser.screenshots import sheet_picture

        with Session() as session:
            write_whole(out.with_suffix(".png"), sheet_picture(session, made))
        screen.print(f"Its picture is {out.with_suffix('.png')}.")
    except BrowserError as error:
        screen.print(f"No picture of it was taken: {error}")


def _learn(into: Path, screen: "Screen") -> None:
    """Learn an editor that is no profile but a little script: paste, copy back, twice."""
    import subprocess
    import sys

    from verse_tray.model.phrasing import as_argument
    from verse_tray.reports.learn_text import advice_text, confidence_text
    from verse_tray.tasks.learn import BeginRequest, begin, next_probe, read

    folder, script = into / "survey-forum", into / "forum" / "clean.py"

    def told(command: str) -> None:
        screen.print(f"$ {command}", style="bold", soft_wrap=True)

    named = as_argument(str(folder))
    told(f"verse-tray learn begin survey-forum -o {named}")
    if not (folder / "session.toml").exists():
        begin(BeginRequest("survey-forum", folder))
    for number in (1, 2):
        if number > 1:
            told(f"verse-tray learn next {named}")
            if not (folder / f"probe-{number}.html").exists():
                next_probe(folder)
        sent, stored = folder / f"probe-{number}.html", folder / f"stored-{number}.html"
        told(
            f"python {as_argument(str(script))} < {sent} > {stored}    # by hand: paste it, save, copy the source back"
        )
        if not stored.exists():
            done = subprocess.run(
                [sys.executable, "-B", str(script)], input=sent.read_bytes(), capture_output=True, check=True
            )
            stored.write_bytes(done.stdout)
        told(f"verse-tray learn read {named}")
        found = read(folder)
        screen.print(confidence_text(found.evidence), soft_wrap=True)
    screen.print(advice_text(found.evidence, named, found.telling) + "\n", soft_wrap=True)


def _place(piece: "Piece", into: Path, screen: "Screen") -> None:
    """Place the example on a site."""
    from verse_tray.cli.screen import hanging
    from verse_tray.model.phrasing import as_argument
    from verse_tray.reports.placement_text import placement_lines
    from verse_tray.tasks.place import PlaceRequest, place_pieces, write_placements

    name = piece.source.name
    asked = PlaceRequest((name,), ("survey-site:reports",))
    screen.print(f"$ verse-tray place {as_argument(name)} --on survey-site:reports\n", style="bold", soft_wrap=True)
    for placement, steps, folder in write_placements(place_pieces(asked), into / "low-water-walk.placed"):
        for line in placement_lines(placement, steps, folder):
            screen.print(hanging(line, screen.width), soft_wrap=True)
        screen.print(f"\nOpen {folder / 'paste-sheet.html'} in a browser: step by step, with buttons that copy.\n")
