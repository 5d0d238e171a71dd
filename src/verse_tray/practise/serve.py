"""The practice site in a folder, served until it is interrupted."""

from __future__ import annotations

import os
import secrets
import socket
import sqlite3
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from datetime import date, timedelta
from pathlib import Path

import uvicorn

from verse_tray.model.errors import OutputError
from verse_tray.practise import channels
from verse_tray.practise.application import application
from verse_tray.practise.site import Site
from verse_tray.practise.store import Store
from verse_tray.serving.own_machine import listen

_FILE = "practice.sqlite"


def practise(
    folder: Path, ports: Sequence[int], scopes: str, day: date | None, new_token: bool, told: Callable[[str, str], None]
) -> None:
    """Serve the practice site of a folder.

    Args:
        folder: Where everything is kept.
        ports: Ports on 127.0.0.1, the first that is free is taken; 0 stands for any.
        scopes: What the token may do.
        day: Which day it is there; None for the last before its rules change.
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
    with _alone_in(folder), _listening(ports) as listening:
        address = f"http://127.0.0.1:{listening.getsockname()[1]}/"
        site = Site(store, day or channels.CHANGES - timedelta(days=1))
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

        handle = os.open(folder / "practice.lock", os.O_RDWR | os.O_CREAT, 0o600)  # the folder is locked by who writes
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


def _listening(ports: Sequence[int]) -> socket.socket:
    """Return a socket on the first of some ports that is free."""
    for port in ports[:-1]:
        with suppress(OutputError, OverflowError):  # somebody else has it now
            return listen(port)
    return listen(ports[-1])


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
