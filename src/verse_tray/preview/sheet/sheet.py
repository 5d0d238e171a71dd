"""The sheet as a whole."""

from __future__ import annotations

import base64
import hashlib
import secrets
from collections.abc import Mapping, Sequence
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from markupsafe import Markup
from msgspec import Struct

from verse_tray.journeys.journey import Journey
from verse_tray.model.decoding import RECORD
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import POLICY, SIDES, Side
from verse_tray.preview.pages.window import NARROW, WIDE
from verse_tray.preview.sheet.row import row
from verse_tray.preview.sheet.store import Store
from verse_tray.preview.templates import render

if TYPE_CHECKING:
    from verse_tray.preview.measuring.render import Rendered
    from verse_tray.preview.trials import Acted

_HERE = Path(__file__).parent


class Besides(NamedTuple):
    """A piece that something was done to before it was pasted."""

    journey: Journey
    """What becomes of it."""
    share: float
    """How much of the piece as written readers get, 0 to 1."""


class Shown(Struct, frozen=True):
    """What a sheet shows."""

    sides: tuple[Side, ...] = SIDES
    """Sides, in the order of the columns."""
    widths: tuple[int, ...] = (WIDE, NARROW)
    """Widths of the views in CSS pixels."""
    themes: dict[str, dict[str, str]] = {}
    """Themes by the editor's name: CSS by the theme's name. An editor that is missing shows its usual one."""
    besides: dict[tuple[str, Side], Besides] = {}
    """Journeys of what became of the piece beforehand (it was fitted, or placed), by the row's name and the side."""
    titled: bool = False
    """Whether the rows are of several pieces, and each says which it is of."""


def row_names(journeys: Sequence[Journey]) -> list[str]:
    """Return what the rows of a sheet are called: by the editor, and by the record where several were filled in."""
    pieces = list(dict.fromkeys(each.piece.source.name for each in journeys))
    if len(pieces) == 1:
        return [each.editor.name for each in journeys]
    return [f"{each.editor.name}-{pieces.index(each.piece.source.name) + 1}" for each in journeys]


def sheet(
    journeys: Sequence[Journey],
    pictures: LocalPictures,
    shown: Shown | None = None,
    *,
    rendered: Mapping[str, Rendered] | None = None,
    acted: Mapping[str, Acted] | None = None,
    script: str = "",
    sends: str = "",
) -> bytes:
    """Return the file of a sheet: a row for each editor, a column for each side and width.

    Args:
        journeys: Journeys of one piece, or of one that was filled from several records, one record after the other.
        pictures: Where its pictures are; it has to keep them in its store.
        shown: What the sheet shows.
        rendered: What was seen of each journey in a browser, by the name of its row.
        acted: What came of trying out each journey, by the name of its row.
        script: Script that runs behind the sheet's own, such as the one that keeps it up to date.
        sends: Where that script may connect to, as a source list of a Content-Security-Policy.
    """
    name = journeys[0].piece.source.name.partition(RECORD)[0]
    names = row_names(journeys)
    store = Store(pictures)
    shown = shown or Shown()
    seen, tried = rendered or {}, acted or {}
    drawn = []
    for called, each in zip(names, journeys, strict=True):
        drawn.append(row(each, called, pictures, shown, store, seen.get(called), tried.get(called)))
        each.rest()
    rows = Markup("\n").join(drawn)
    return framed(
        Path(name).name if name != "-" else "piece",
        about=_about(journeys, shown),
        overview=_overview(list(zip(names, journeys, strict=True))),
        rows=rows,
        store=store,
        script=script,
        sends=sends,
    )


def framed(
    title: str, *, about: str, overview: Markup, rows: Markup, store: Store, script: str = "", sends: str = ""
) -> bytes:
    """Return the file around the rows; ``title`` and ``about`` are text, ``overview`` and ``rows`` are markup."""
    own = "\n".join((_HERE / name).read_text("utf-8") for name in ("overlay.js", "sheet.js"))
    scripts = [Markup(each) for each in (own, *([script] if script else []))]
    hashes = " ".join(f"'sha256-{_sha256(each)}'" for each in scripts)
    stands = secrets.token_hex(16)  # for the data, which may be very large: no template copies it
    front, _, back = render(
        "sheet/sheet.html",
        policy=Markup(f"{POLICY}; script-src {hashes}" + (f"; connect-src {sends}" if sends else "")),
        title=title,
        about=about,
        overview=overview,
        rows=rows,
        style=Markup((_HERE / "sheet.css").read_text("utf-8")),
        data=stands,
        scripts=scripts,
    ).partition(stands)
    made = BytesIO()  # its bytes are handed over: what is joined would be there twice
    made.write(_encoded(front))
    made.writelines(store.json())
    made.write(_encoded(back))
    return made.getvalue()


def _encoded(text: str) -> bytes:
    return text.encode("utf-8", "replace")


def empty_sheet(title: str, about: str, pictures: LocalPictures, *, script: str, sends: str) -> bytes:
    """Return the file of a sheet without rows, for when there is nothing to be shown yet."""
    return framed(
        title, about=about, overview=Markup(), rows=Markup(), store=Store(pictures), script=script, sends=sends
    )


def _sha256(script: str) -> str:
    return base64.b64encode(hashlib.sha256(script.encode()).digest()).decode("ascii")


def _about(journeys: Sequence[Journey], shown: Shown) -> str:
    count = len({each.editor.name for each in journeys})
    records = len(journeys) // count if RECORD in journeys[0].piece.source.name else 1
    filled = f" filled from {records} records," if records > 1 else ""
    named = {
        "written": "as you wrote it",
        "editor": "as the editor shows it",
        "published": "as readers get it",
        "fitted": "as they get it fitted",
        "placed": "as they get it placed",
    }
    sides = ", ".join(named[side] for side in shown.sides)
    widths = " and ".join(map(str, shown.widths))
    return (
        f"The piece{filled} {sides}: in {count} editor{'' if count == 1 else 's'}, {widths} pixels wide. "
        "No script of the piece runs here and nothing is fetched: what is not beside the piece is shown as a box of "
        "its size."
    )


def _overview(rows: Sequence[tuple[str, Journey]]) -> Markup:
    if len(rows) < 2:
        return Markup()
    worst_first = sorted(rows, key=lambda row: (-row[1].verdict.rank, row[0]))
    return render("sheet/overview.html", rows=worst_first)
