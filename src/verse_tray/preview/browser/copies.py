"""The author's own copies of what a page asks for elsewhere."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import unquote, urlsplit


def copy_in(folder: Path | None, address: str) -> Path | None:
    """Return the file in a folder, not in one below it, that has the name at the end of an address, if there is one."""
    if folder is None:
        return None
    try:
        name = unquote(urlsplit(address.strip()).path.rpartition("/")[2])
        path = folder / name
        return path if name and path.parent == folder and path.is_file() else None
    except (OSError, ValueError):
        return None
