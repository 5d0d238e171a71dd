"""``verse-tray live``."""

from typing import Annotated

import typer

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
)


def command(
    context: typer.Context,
    files: Annotated[
        list[str] | None,
        typer.Argument(metavar="FILE...", help="File of HTML; several parts are joined, as join does."),
    ] = None,
    editor: Editors = None,
    data: Data = None,
    record: Record = None,
    extremes: Extremes = False,
    mark: Mark = "{{NAME}}",
    fit: Fit = False,
    on: On = None,
    region: Region = None,
    position: Position = "",
    theme: Themes = None,
    width: Widths = None,
    pictures: PictureFolders = None,
    port: Annotated[
        int, typer.Option("--port", min=0, max=65535, help="Port of this machine; 0 for any that is free.")
    ] = 0,
) -> None:
    """Serve the preview sheet to this machine's browser, and keep it up to date while you write.

    The page changes when the piece, a part, the data, a picture or an editor's profile is saved; it stays where it is
    scrolled to, and what is wrong is told in it. Only this machine can reach it. Ctrl-C ends it. Without a file, all
    pieces of the tray in this folder are shown where they are to stand.

    \b
    Examples:
      verse-tray live tide-table.html
      verse-tray live tide-table.html --editor ./our-blog --theme all
      verse-tray live tides.html tides.scss tides.js --editor framed-box
      verse-tray live tide-table.html --editor course-page --fit
      verse-tray live tide-table.html --on field-shop:guide --region description
      verse-tray live letter.html --data volunteers.csv --record 3 --port 8040
      verse-tray live letter.html --data volunteers.csv --extremes
    """  # fmt: skip
    from verse_tray.cli.options import needs_data, place_asked
    from verse_tray.cli.screen import note
    from verse_tray.tasks.live import Live, LiveRequest, LiveTray

    if not files:
        from verse_tray.cli.tray import HERE, tray_asked

        tray_asked(context, "port")
        LiveTray(HERE).serve(
            port, lambda address: note(f"The tray is shown at {address} and kept up to date. Ctrl-C ends it.")
        )
        note("Stopped.")
        return

    widths = tuple(dict.fromkeys(width or ()))
    needs_data(data, record, extremes=extremes)
    request = LiveRequest(
        tuple(files),
        tuple(editor or ()),
        data,
        record,
        extremes,
        mark,
        tuple(theme or ()),
        widths,
        tuple(pictures or ()),
        fit,
        place_asked(tuple(files[:1]), on, region, position, editor),
    )
    Live(request).serve(
        port, lambda address: note(f"{files[0]} is shown at {address} and kept up to date. Ctrl-C ends it.")
    )
    note("Stopped.")
