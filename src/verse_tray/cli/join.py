"""``verse-tray join``."""

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer


class Into(StrEnum):
    """What the parts become."""

    FRAGMENT = "fragment"
    DOCUMENT = "document"
    SLOTS = "slots"


def command(
    parts: Annotated[
        list[str], typer.Argument(metavar="PART...", help="Files of HTML, CSS and JavaScript; - is standard input.")
    ],
    library: Annotated[
        list[str] | None,
        typer.Option("--library", metavar="ADDRESS", help="A library's sheet or script, in order; may be repeated."),
    ] = None,
    into: Annotated[Into | None, typer.Option("--into", help="What the parts become. Left out: a fragment.")] = None,
    for_: Annotated[
        str | None,
        typer.Option("--for", metavar="EDITOR", help="Editor it goes into: a framed box gets a whole document."),
    ] = None,
    apart: Annotated[
        str | None,
        typer.Option("--apart", metavar="NAME", help="Put NAME- before the names that are its own: no two clash."),
    ] = None,
    copies: Annotated[
        int, typer.Option("--copies", min=1, max=200, help="Write it so many times, each copy set apart.")
    ] = 1,
    title: Annotated[str | None, typer.Option("--title", help="Title of a document.")] = None,
    language: Annotated[
        str | None, typer.Option("--language", metavar="CODE", help="Language of a document, such as en or de.")
    ] = None,
    out: Annotated[
        Path | None, typer.Option("-o", "--out", metavar="PATH", help="File to write to; for slots a folder.")
    ] = None,
) -> None:
    """Join HTML, CSS and JavaScript parts into one paste: libraries, styles, markup, then own scripts.

    What a part is written in is told by what stands in it. Nested-style sheets are compiled (extra sass).
    Whole documents are taken apart where a fragment is wanted.

    \b
    Examples:
      verse-tray join tides.html tides.scss tides.js | verse-tray check -
      verse-tray join tides.html tides.js --library https://libraries.example.org/slides.js -o tides-joined.html
      verse-tray join page.html --for framed-box -o box.html
      verse-tray join tides.html tides.css tides.js --copies 2 --apart tides
      verse-tray join tides.html tides.css tides.js --into slots -o slots
    """
    from verse_tray.cli.screen import note, print_raw, write_result
    from verse_tray.model.errors import InputError
    from verse_tray.tasks.join import JoinRequest, join_parts
    from verse_tray.tasks.outputs import write_whole

    if into is Into.SLOTS and out is None:
        raise InputError("--into slots writes several files: name a folder with -o.")
    kind = None if into is None else into.value
    joined = join_parts(JoinRequest(tuple(parts), tuple(library or ()), kind, for_, apart, copies, title, language))
    for each in joined.notes:
        note(each)
    if into is Into.SLOTS and out is not None:
        for name, text in joined.slots.items():
            write_whole(out / name, text.encode())
        note(f"Wrote {', '.join(joined.slots)} into {out}; paste them in this order.")
    elif out is None:
        print_raw(joined.text)
    else:
        write_result(joined.text.encode(), out)
