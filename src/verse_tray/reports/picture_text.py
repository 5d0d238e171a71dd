"""The pictures of a piece: their addresses, files, sizes and weight, and what they say to who does not see them."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from verse_tray.edit.hosted import LocalPath
from verse_tray.markup.tree import Element
from verse_tray.media.picture_size import Measured, Unreadable
from verse_tray.model.decoding import Source
from verse_tray.model.phrasing import as_argument, counted
from verse_tray.piece.contexts import Context
from verse_tray.piece.pictures import is_local, measured
from verse_tray.piece.subject import Subject
from verse_tray.style.values import pixels


def pictures_text(
    subject: Subject, source: Source, paths: list[LocalPath], *, seek: bool = False
) -> Iterator[RenderableType]:
    """Yield what to print: a table of the pictures, and the local paths that stand elsewhere.

    Args:
        subject: The piece; empty for a style sheet or a script of its own.
        source: The text in which the paths stand.
        paths: Its local paths.
        seek: Whether paths of another machine are looked for by their last parts.
    """
    images = list(subject.each("img"))
    name = source.name
    if not images and not paths:
        yield Text(f"{name}: there is no picture in it.")
        return
    if images:
        table = Table(box=None, padding=(0, 2, 0, 0), pad_edge=False)
        for heading in ("place", "picture", "file", "stated", "shown", "alternative text"):
            table.add_column(heading, header_style="bold", overflow="fold")
        for image in images:
            table.add_row(*_row(subject, image, seek=seek))
        yield table
        yield Text("")
    sources = {found.value for image in images if (found := subject.attribute(image, "src")) is not None}
    others = [path for path in paths if path.span not in sources]
    for path in others:
        place = "{}:{}".format(*source.place(path.span.start))
        about = f"{path.path}  in a {_CALLED[path.place.context]}  "
        known = Text("there", "dim") if path.found and not isinstance(path.file, Measured) else None
        yield Text.assemble((f"{place}  ", "bold"), about, known or _file(path.file, local=True))
    if paths:
        yield Text.assemble(
            f"{counted(len(paths), 'local path')} to replace once the files are hosted:  ",
            (f"verse-tray pictures {as_argument(name)} --hosted MAP.csv", "bold"),
        )


_CALLED = {
    Context.ADDRESS: "tag",
    Context.SRCSET: "srcset",
    Context.STYLE_ADDRESS: "style",
    Context.SCRIPT: "script",
}


def _row(subject: Subject, image: Element, *, seek: bool) -> list[Text]:
    span = subject.span(image)
    place = "" if span is None else "{}:{}".format(*subject.source.place(span.start))
    address = image.attributes.get("src", "")
    file = measured(subject, address, seek=seek)
    shown = f"{address[:57]}…" if len(address) > 58 else address
    told = Text(shown, "yellow" if is_local(address) else "")
    alt = image.attributes.get("alt")
    said = Text("none", "red") if alt is None else Text("decorates", "dim") if not alt else Text(alt)
    return [
        Text(place, "bold"),
        told,
        _file(file, local=is_local(address)),
        Text(_stated(image)),
        Text(_styled(subject, image)),
        said,
    ]


def _file(file: Measured | Unreadable | None, *, local: bool) -> Text:
    if isinstance(file, Measured):
        return Text(f"{file.width} × {file.height}, {max(1, round(file.weight / 1000)):,} KB {file.kind}")
    if isinstance(file, Unreadable):
        return Text(file.reason, "red")
    return Text("not there", "red") if local else Text("hosted", "dim")


def _stated(image: Element) -> str:
    width, height = image.attributes.get("width", ""), image.attributes.get("height", "")
    return f"{width or '?'} × {height or '?'}" if width or height else "no size"


def _styled(subject: Subject, image: Element) -> str:
    winners = subject.winners(image)
    sides = [winners[name][0] if name in winners else "" for name in ("width", "height")]
    if not any(sides):
        return "as stated" if image.attributes.get("width") else "as it is"
    return " × ".join(f"{pixels(side):g}" if pixels(side) is not None else side or "auto" for side in sides)
