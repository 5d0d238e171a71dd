"""Editors of the author's own: begun as a copy of another, or made from a configuration."""

from __future__ import annotations

import shutil
from pathlib import Path

import msgspec

from verse_tray.editors.adopt import adopt
from verse_tray.editors.load import load_editor
from verse_tray.editors.schema import profile_schema
from verse_tray.editors.store import profile_toml
from verse_tray.editors.themes import themes
from verse_tray.model.errors import InputError, OutputError
from verse_tray.tasks.files import read_text
from verse_tray.tasks.outputs import write_whole


def adopt_editor(config: str, name: str, *, safe: bool) -> Path:
    """Make a profile from an HTML Sanitizer API configuration, and return where it was written.

    Raises:
        InputError: the file is no configuration.
        OutputError: the folder cannot be made.
    """
    try:
        data = msgspec.json.decode(read_text(config))
    except msgspec.DecodeError as error:
        raise InputError(f"{config}: this is not JSON: {error}. Give a SanitizerConfig.") from None
    editor = adopt(data, safe=safe, name=name)
    return _write(Path(name), {"editor.toml": profile_toml(editor.profile)})


def begin_editor(name: str, like: str) -> Path:
    """Begin a profile as a copy of another, with page frame and themes, and return where it was written.

    Raises:
        UnknownEditorError, ProfileError: the other cannot be used.
        OutputError: the folder cannot be made.
    """
    editor = load_editor(like)
    profile = profile_toml(editor.profile, title=Path(name).name)
    looks = {f"{theme}.css": css for theme, css in themes(editor).items()}
    return _write(Path(name), {"editor.toml": profile, editor.profile.frame: editor.frame, **looks})


def schema_text() -> str:
    """Return the JSON Schema of ``editor.toml`` as text."""
    return msgspec.json.format(msgspec.json.encode(profile_schema()), indent=2).decode() + "\n"


def _write(folder: Path, files: dict[str, str]) -> Path:
    try:
        folder.mkdir(parents=True)
    except OSError as error:
        raise OutputError(f"{folder}: the folder cannot be made: {error.strerror}. Give another name.") from None
    try:
        for name, text in files.items():
            write_whole(folder / name, text.encode())
    except OutputError:  # half a profile would stand in the way of the next try
        shutil.rmtree(folder, ignore_errors=True)
        raise
    return folder
