"""Serving the practice site."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

from verse_tray.model.errors import InputError, not_installed

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
    serve(folder, port, " ".join(scopes or SCOPES), day, new_token, told)
