"""The archives of an audit: where they are, and how they are read, now and later."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from verse_tray.audit.post import Post
from verse_tray.audit.sources.told import posts
from verse_tray.audit.store import SourceRow


def of_path(source: str, column: str | None, table: str | None) -> SourceRow:
    """Return a source that is a folder, a file or a pattern of files."""
    return SourceRow(source, "", str(Path().absolute()), column, table)


def of_site(name: str) -> SourceRow:
    """Return a source that is a site: its posts, asked for over Micropub."""
    return SourceRow(f"site {name}", name, str(Path().absolute()))


def read(source: SourceRow) -> Iterator[Post]:
    """Yield the pieces of a source.

    Raises:
        InputError, ExchangeError: it cannot be read.
    """
    if source.site:
        yield from _of_site(source)
    else:
        yield from posts(source.name, source.column, source.table, source.folder)


def _of_site(source: SourceRow) -> Iterator[Post]:
    from verse_tray.exchange import micropub
    from verse_tray.exchange.client import Client
    from verse_tray.tasks.sending_target import target_of

    target = target_of(source.site, Path(source.folder))
    with Client(target.sending.address, target.token()) as client:
        for address, stored in micropub.every_post(client, micropub.discover(client, target.sending.address)):
            dates = [each for each in stored.properties.get("published", []) if isinstance(each, str)]
            yield Post(source.name, address, stored.content, address, dates[0] if dates else "")
