"""Placing pieces on sites, and writing what there is to paste."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Sequence
from pathlib import Path, PurePath

import msgspec
from msgspec import Struct

from verse_tray.model.errors import InputError, OutputError
from verse_tray.piece.piece import Piece
from verse_tray.place.placement import Placement, Wanted, place
from verse_tray.place.steps import Step, steps_of
from verse_tray.sites.load import LoadedSite, Where, chosen_page, chosen_region, load_site, split_page
from verse_tray.tasks.files import read_piece
from verse_tray.tasks.outputs import write_whole

RECORD = "placement.json"
"""File in the folder of a placement that says what is what."""


class PlaceRequest(Struct, frozen=True):
    """What is placed where."""

    files: tuple[str, ...]
    """The pieces, in order."""
    on: tuple[str, ...]
    """Sites and their pages, as ``SITE:PAGE``."""
    regions: tuple[str, ...] = ()
    """Regions of the pages; none at all where a page has just one."""
    position: str = ""
    """Where among what stands there."""
    as_given: bool = False
    """Whether the pieces are code from elsewhere."""


def place_pieces(request: PlaceRequest, pieces: Sequence[Piece] = ()) -> list[Placement]:
    """Place pieces on sites.

    Args:
        request: What is placed where.
        pieces: What the files hold, if that is not to be read.

    Raises:
        InputError: a piece cannot be read.
        UnknownSiteError, SettingsError: see :func:`verse_tray.sites.load.load_site`.
    """
    sites: dict[str, LoadedSite] = {}
    wanted: dict[str, list[Wanted]] = {}
    pieces = pieces or [read_piece(name) for name in request.files]
    for named in dict.fromkeys(request.on):
        name, page = split_page(named)
        site = sites.setdefault(name, load_site(name))
        page = chosen_page(site, page)
        for region in dict.fromkeys(request.regions or ("",)):
            where = Where(site, page, chosen_region(site, page, region))
            position = request.position
            for piece in pieces:
                wanted.setdefault(name, []).append(Wanted(piece, where, position, request.as_given))
                if position.strip().isdecimal():
                    position = str(int(position) + 1)
                elif position.strip().lower().startswith("after"):
                    position = f"after {piece.source.name}"
    return [place(sites[name], each) for name, each in wanted.items()]


def folder_for(files: Sequence[str]) -> Path:
    """Return the folder that pastes go to where nobody names one."""
    first = files[0]
    return Path("piece.placed") if first == "-" else Path(first).with_suffix(".placed")


def write_placements(placements: Sequence[Placement], folder: Path) -> Iterator[tuple[Placement, list[Step], Path]]:
    """Write what there is to paste, its sheets and the pages as they will be; of several sites each into a folder.

    Files of an earlier placement that are not written again, and that nobody has changed, go.

    Raises:
        OutputError: something cannot be written, or the folder holds something else.
    """
    from verse_tray.preview.placed import paste_sheet, paste_sheet_markdown
    from verse_tray.reports.placement_text import placement_record

    for placement in placements:
        into = folder if len(placements) == 1 else folder / placement.site.name
        steps = steps_of(placement)
        files = {step.file: step.paste.text for step in steps}
        files["paste-sheet.html"] = paste_sheet(placement, steps)
        files["paste-sheet.md"] = paste_sheet_markdown(placement, steps)
        for page in placement.pages:
            files["page.html" if len(placement.pages) == 1 else f"page-{page}.html"] = placement.page(page)
        written = {name: _digest(_bytes(text)) for name, text in files.items()}
        earlier = _clear(into, files)
        record = placement_record([(placement, steps)])
        # first what is ours, old and new: a run that is ended on the way leaves files that the next one knows
        _write_record(into, record | {"files": written, "before": earlier})
        for name, text in files.items():
            write_whole(into / name, _bytes(text))
        _write_record(into, record | {"files": written})
        yield placement, steps, into


def _write_record(folder: Path, record: dict[str, object]) -> None:
    from verse_tray.reports.placement_text import as_json

    write_whole(folder / RECORD, as_json(record).encode(), again=True)


def _bytes(text: str) -> bytes:
    return text.encode("utf-8", "surrogatepass")


def _digest(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()


def _clear(folder: Path, files: dict[str, str]) -> dict[str, str]:
    """Make room: what is left of an earlier placement goes, as far as nobody has changed it.

    Returns:
        What is known of the files that an earlier placement has written: their hashes by name.

    Raises:
        OutputError: something stands there that no earlier placement has written as it is.
    """
    try:
        record = msgspec.json.decode((folder / RECORD).read_bytes())
        ours = {name: {digest} for name, digest in record["files"].items()}
        for name, digest in record.get("before", {}).items():
            ours.setdefault(name, set()).add(digest)
    except (OSError, msgspec.DecodeError, KeyError, TypeError, AttributeError):
        ours = {}
    earlier: dict[str, str] = {}
    for name in dict.fromkeys((*files, *ours)):
        path = folder / name
        if PurePath(name).name != name or path.is_symlink() or not path.exists():
            continue
        there = _digest(path.read_bytes()) if path.is_file() else ""
        known = there in ours.get(name, ())
        if name in files and not known and there != _digest(_bytes(files[name])):
            raise OutputError(
                f"{path}: it would be written over, and it is no file of an earlier placement, or was changed since. "
                "Move it away, or name another folder with -o."
            )
        if known:
            earlier[name] = there
        if known and name not in files:
            path.unlink()
    return earlier


def text_of(folder: Path, number: int) -> str:
    """Return the text of a paste of a folder.

    Raises:
        InputError: there is no such paste, or the folder holds no placement.
    """
    try:
        record = msgspec.json.decode((folder / RECORD).read_bytes())
        texts = {each["number"]: each["text"] for each in record["placements"][0]["pastes"]}
    except (OSError, msgspec.DecodeError, KeyError, TypeError, IndexError):
        raise InputError(f"{folder}: this folder holds no placement. Place a piece first, with -o {folder}.") from None
    if number not in texts:
        raise InputError(f"--copy {number}: there is no such paste; there are 1 to {len(texts)}.")
    return str(texts[number])
