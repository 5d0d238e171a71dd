"""Sites: listed, shown, begun."""

from __future__ import annotations

import shutil
from pathlib import Path

import msgspec

from verse_tray.config.schema import whole_schema
from verse_tray.model.errors import OutputError
from verse_tray.sites.load import load_site
from verse_tray.sites.records import FORMAT, Site
from verse_tray.tasks.outputs import write_whole


def begin_site(name: str, like: str) -> Path:
    """Begin a site as a copy of another, with its pages and themes, and return where it was written.

    Raises:
        UnknownSiteError, SettingsError: the other cannot be used.
        OutputError: the folder cannot be made.
    """
    other = load_site(like)
    folder = Path(name)
    try:
        folder.mkdir(parents=True)
    except OSError as error:
        raise OutputError(f"{folder}: the folder cannot be made: {error.strerror}. Give another name.") from None
    try:
        for path in sorted(other.folder.iterdir()):
            if path.is_file() and path.suffix in (".toml", ".html", ".css"):
                write_whole(folder / path.name, path.read_bytes())
    except (OSError, OutputError):  # half a site would stand in the way of the next try
        shutil.rmtree(folder, ignore_errors=True)
        raise
    return folder


def site_schema_text() -> str:
    """Return the JSON Schema of ``site.toml`` as text."""
    schema = whole_schema(Site, f"Site, {FORMAT}")
    return msgspec.json.format(msgspec.json.encode(schema), indent=2).decode() + "\n"
