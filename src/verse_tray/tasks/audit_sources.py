"""The archives of an audit: where they are, and how they are read, now and later."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from glob import glob
from pathlib import Path

from msgspec.structs import replace

from verse_tray.audit.post import Post
from verse_tray.audit.sources.files import ENDINGS
from verse_tray.audit.sources.told import posts
from verse_tray.audit.store import SourceRow
from verse_tray.model.errors import InputError


def of_path(source: str, column: str | None, table: str | None) -> SourceRow:
    """Return a source that is a folder, a file or a pattern of files."""
    return SourceRow(source, "", str(Path().absolute()), column, table)


def of_site(name: str) -> SourceRow:
    """Return a source that is a site: its posts, asked for over Micropub."""
    return SourceRow(f"site {name}", name, str(Path().absolute()))


def _holds(source: SourceRow, path: Path) -> bool:
    """Tell whether a file or a folder is of a source, or would be among its pieces."""
    place = Path(source.folder, source.name)
    try:
        if source.site:
            return False
        if place.is_dir():
            is_piece = path.suffix.lower() in ENDINGS or not path.suffix
            return is_piece and path.resolve().is_relative_to(place.resolve())
        if place.exists():
            return path.exists() and path.samefile(place)
        named = glob(source.name, root_dir=source.folder or None, recursive=True)  # noqa: PTH207 (it may be absolute)
        return path.exists() and any(path.samefile(Path(source.folder, each)) for each in named)
    except (OSError, ValueError):
        return False


def keep_apart(outputs: Iterable[Path | None], sources: Iterable[SourceRow]) -> None:
    """See to it that nothing is written over a piece of an archive, or among its pieces.

    Raises:
        InputError: it would be.
    """
    known = list(sources)
    for path in outputs:
        for source in known:
            if path is not None and _holds(source, path):
                raise InputError(
                    f"{path}: this is, or would be, among the pieces of {source.name}. Write it elsewhere."
                )


def read(source: SourceRow) -> Iterator[Post]:
    """Yield the pieces of a source; of those of one name, all but the first have their number behind it.

    Raises:
        InputError, ExchangeError: it cannot be read.
    """
    folder = "" if Path(source.folder) == Path().absolute() else source.folder
    found = _of_site(source) if source.site else posts(source.name, source.column, source.table, folder)
    seen: set[int] = set()  # not the names: an archive may have millions
    again: Counter[str] = Counter()
    for post in found:
        name = post.name
        while (sign := hash(name)) in seen:
            again[post.name] += 1
            name = f"{post.name} ({again[post.name] + 1})"
        seen.add(sign)
        yield post if name == post.name else replace(post, name=name)


def _of_site(source: SourceRow) -> Iterator[Post]:
    from verse_tray.exchange import micropub
    from verse_tray.exchange.client import Client
    from verse_tray.tasks.sending_target import target_of

    target = target_of(source.site, Path(source.folder))
    with Client(target.sending.address, target.token()) as client:
        for address, stored in micropub.every_post(client, micropub.discover(client, target.sending.address)):
            dates = [each for each in stored.properties.get("published", []) if isinstance(each, str)]
            yield Post(source.name, address, stored.content, address, dates[0] if dates else "")
