"""The practice site in a folder, served until it is interrupted."""

from __future__ import annotations

import os
import re
import secrets
import socket
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path

import uvicorn

from verse_tray.model.errors import OutputError
from verse_tray.practise.application import application, today
from verse_tray.practise.site import USUAL, Site
from verse_tray.practise.store import Store
from verse_tray.serving.own_machine import listen

_FILE = "practice.sqlite"
_ADDRESS = re.compile(r'^(address = )"http://127\.0\.0\.1:(\d{1,5})/"', re.MULTILINE)
_SETTINGS = """\
# Where verse-tray send finds the practice site. The token itself stands in the file beside this one.
format = "verse-tray-site/1"
title = "Practice site"
summary = "The practice site of this machine."

[sending]
address = "{address}"
editor = "{editor}"
channel = "{editor}"
token = "file:token"

[pages.post]
title = "Post"

[pages.post.regions.content]
title = "Content"
editor = "{editor}"
width = 760
where = "Editors → Blog post"
"""


def practise(
    folder: Path, port: int, scopes: str, day: date | None, new_token: bool, told: Callable[[str, str], None]
) -> None:
    """Serve the practice site of a folder.

    Args:
        folder: Where everything is kept.
        port: Port on 127.0.0.1; 0 for any that is free.
        scopes: What the token may do.
        day: Which day it is there; None for today.
        new_token: Whether the old token is to let nobody in any more.
        told: Is given the address and the token, once the site can be asked.

    Raises:
        OutputError: the port is taken, or the folder cannot be written to.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        store = Store(folder / _FILE)
        token = _token(folder / "token", anew=new_token)
        store.set_token(token, scopes)
    except (OSError, sqlite3.Error) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise OutputError(f"{folder}: the practice site cannot keep anything there: {reason}.") from None
    settings = folder / "site.toml"
    with _alone_in(folder), _listening(port, settings) as listening:
        address = f"http://127.0.0.1:{listening.getsockname()[1]}/"
        _note_address(settings, address)
        site = Site(store, (lambda: day) if day is not None else today)
        config = uvicorn.Config(
            application(site, listening.getsockname()[1], token),
            log_level="critical",
            lifespan="off",
            timeout_graceful_shutdown=1,
            ws="none",
        )
        told(address, token)
        try:
            uvicorn.Server(config).run(sockets=[listening])
        finally:
            store.close()


@contextmanager
def _alone_in(folder: Path) -> Iterator[None]:
    """Keep other practice sites from the same folder, where the system has locks.

    Raises:
        OutputError: one serves it.
    """
    try:
        import fcntl

        handle = os.open(folder, os.O_RDONLY)
    except (ImportError, OSError):
        yield
        return
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        yield
    except BlockingIOError:
        raise OutputError(f"{folder}: a practice site serves this folder already. Name another with --into.") from None
    finally:
        os.close(handle)


def _listening(port: int, settings: Path) -> socket.socket:
    """Return a socket on a port; where any will do, on that of the last time if it is free, so that addresses stay."""
    if not port and settings.is_file() and (last := _ADDRESS.search(settings.read_text("utf-8", "replace"))):
        try:
            return listen(int(last[2]))
        except (OutputError, OverflowError):  # somebody else has it now
            pass
    return listen(port)


def _note_address(settings: Path, address: str) -> None:
    """Write down where the site is; what an author has written around it stays."""
    if settings.is_file():
        text = _ADDRESS.sub(lambda found: f'{found[1]}"{address}"', settings.read_text("utf-8"), count=1)
    else:
        text = _SETTINGS.format(address=address, editor=USUAL)
    settings.write_text(text, "utf-8")


def _token(path: Path, *, anew: bool) -> str:
    """Return the token of a folder; a file that only its owner may read holds it."""
    if not anew and path.is_file() and (kept := path.read_text("ascii", "replace").strip()):
        path.chmod(0o600)
        return kept
    secret = secrets.token_urlsafe(24)
    path.unlink(missing_ok=True)
    handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "w", encoding="ascii") as file:
        file.write(secret + "\n")
    return secret
