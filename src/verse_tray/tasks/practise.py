"""Serving the practice site."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date
from pathlib import Path

from verse_tray.model.errors import InputError, not_installed
from verse_tray.tasks.outputs import write_whole

_SETTINGS = """\
# Where verse-tray send finds the practice site. The token itself stands in the file beside this one.
format = "verse-tray-site/1"
title = "Practice site"
summary = "The practice site of this machine."

[sending]
address = "http://127.0.0.1:0/"
editor = "blog-post"
channel = "blog-post"
token = "file:token"

[pages.post]
title = "Post"

[pages.post.regions.content]
title = "Content"
editor = "blog-post"
width = 760
where = "Editors → Blog post"
"""
_ADDRESS = re.compile(r'^(address = )"http://127\.0\.0\.1:(\d{1,5})/"', re.MULTILINE)
SCOPES = ("create", "draft", "update", "delete", "undelete", "media")
"""What a token may do."""


def practise(
    folder: Path,
    port: int,
    scopes: tuple[str, ...],
    day: date | None,
    *,
    new_token: bool,
    told: Callable[[str, str], None],
) -> None:
    """Serve the practice site of a folder until it is interrupted; see :func:`verse_tray.practise.serve.practise`.

    Raises:
        InputError: what serves it is not installed.
        OutputError: the port is taken, or the folder cannot be written to.
    """
    try:
        from verse_tray.practise.serve import practise as serve
    except ImportError as error:
        raise InputError(not_installed("The practice site", error, "live")) from None
    settings = folder / "site.toml"
    last = _ADDRESS.search(settings.read_text("utf-8", "replace")) if settings.is_file() and not port else None
    ports = (int(last[2]), port) if last else (port,)  # that of the last time, so that addresses stay

    def known(address: str, token: str) -> None:
        _note_address(settings, address)
        told(address, token)

    serve(folder, ports, " ".join(scopes or SCOPES), day, new_token, known)


def _note_address(settings: Path, address: str) -> None:
    """Write down where the site is; what an author has written around it stays."""
    text = settings.read_text("utf-8") if settings.is_file() else _SETTINGS
    new = _ADDRESS.sub(lambda found: f'{found[1]}"{address}"', text, count=1)
    write_whole(settings, new.encode(), mended=True)
