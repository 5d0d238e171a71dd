"""Profiles from disk: strict, with every fault at once, each with its place and the nearest known name."""

from __future__ import annotations

import re
import tomllib
from copy import deepcopy
from functools import cached_property
from pathlib import Path
from typing import Any

import msgspec

from verse_tray.editors.profile import Profile
from verse_tray.editors.rules import Rules
from verse_tray.model.errors import ProfileError, ProfileFault, UnknownEditorError

STAND_INS = Path(__file__).parent / "stand_ins"
PIECE_MARK = "<!-- piece -->"
"""Where the piece goes in a page frame."""
PLAIN_FRAME = f'<!DOCTYPE html>\n<html lang="en">\n<body>\n{PIECE_MARK}\n</body>\n</html>\n'


class Editor:
    """One field of one platform."""

    def __init__(self, name: str, profile: Profile, frame: str = PLAIN_FRAME, theme: str = "") -> None:
        self.name = name
        """Name by which it is called."""
        self.profile = profile
        """Its description."""
        self.frame = frame
        """Its page frame, holding :data:`PIECE_MARK` once."""
        self.theme = theme
        """Its theme: CSS."""

    @cached_property
    def rules(self) -> Rules:
        """The lists of its ``save`` stage."""
        return Rules(self.profile.save)


def known_editors() -> list[str]:
    """Return the names of the stand-ins, in order."""
    return sorted(folder.name for folder in STAND_INS.iterdir() if (folder / "editor.toml").is_file())


def load_editor(name_or_path: str | Path) -> Editor:
    """Load an editor by its name, or from its folder or TOML file.

    Raises:
        UnknownEditorError: no editor of that name, and no such path.
        ProfileError: the profile cannot be used; every fault is named.
    """
    name = str(name_or_path)
    if isinstance(name_or_path, str) and name in known_editors():
        return _from_file(STAND_INS / name / "editor.toml", name)
    path = Path(name_or_path)
    if path.is_dir() and (path / "editor.toml").is_file():
        return _from_file(path / "editor.toml", path.resolve().name)
    if path.is_file():
        return _from_file(path, path.stem if path.stem != "editor" else path.resolve().parent.name)
    raise UnknownEditorError(_unknown(name, path))


def _unknown(name: str, path: Path) -> str:
    from verse_tray.editors.faults import nearest

    known = known_editors()
    if path.is_dir():
        return f"{name}: this folder holds no editor.toml. Give a folder that holds one, or a TOML file."
    if "/" in name or name.endswith(".toml"):
        return f"{name}: no such file or folder. Give an editor's name, its folder or its TOML file."
    near = nearest(name, known)
    hint = f"Did you mean {near}? " if near else ""
    return f"There is no editor named {name!r}. {hint}Known are: {', '.join(known)}, or all of them: all."


def _from_file(path: Path, name: str) -> Editor:
    try:
        text = path.read_bytes().decode("utf-8")
    except UnicodeDecodeError as error:
        raise ProfileError(
            str(path), [ProfileFault("", f"byte {error.start} is not UTF-8; save it as UTF-8")]
        ) from None
    except OSError as error:
        raise ProfileError(str(path), [ProfileFault("", error.strerror or str(error))]) from None
    try:
        data = tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        place = re.search(r"\(at line (\d+), column (\d+)\)", str(error))
        message = re.sub(r" \(at .*\)$", "", str(error)) + "; expected TOML 1.0"
        line, column = (int(place[1]), int(place[2])) if place else (None, None)
        raise ProfileError(str(path), [ProfileFault("", message, line, column)]) from None
    profile = read_profile(data, str(path), text)
    faults: list[ProfileFault] = []
    frame = _beside(path, profile.frame, "frame", text if "frame" in data else "", faults)
    theme = _beside(path, profile.theme, "theme", text if "theme" in data else "", faults)
    if frame is not None and frame.count(PIECE_MARK) != 1:
        faults.append(_fault("frame", f"{profile.frame} has to hold {PIECE_MARK} exactly once", text))
    if faults:
        raise ProfileError(str(path), faults)
    return Editor(name, profile, PLAIN_FRAME if frame is None else frame, theme or "")


def _beside(profile: Path, file: str, key: str, text: str, faults: list[ProfileFault]) -> str | None:
    """Read a file of a profile's folder; None when there is none and ``text``, the profile, does not ask for it."""
    if Path(file).name != file:  # a profile may come from somebody else: it is to show no file of this machine
        faults.append(_fault(key, f"expected the name of a file beside the profile, got {file!r}", text))
        return None
    try:
        return (profile.parent / file).read_text("utf-8")
    except FileNotFoundError:
        if text:
            faults.append(_fault(key, f"there is no file {file} beside the profile", text))
    except UnicodeDecodeError:
        faults.append(_fault(key, f"{file} is not UTF-8; save it as UTF-8", text))
    except OSError as error:
        faults.append(_fault(key, f"{file} cannot be read: {error.strerror or error}", text))
    return None


def _fault(key: str, message: str, text: str) -> ProfileFault:
    from verse_tray.editors.faults import locate

    return ProfileFault(key, message, *locate(text, key))


def read_profile(data: dict[str, Any], where: str, text: str = "") -> Profile:
    """Turn a mapping into a profile.

    Raises:
        ProfileError: with every fault; ``text`` is searched for their lines.
    """
    try:
        return msgspec.convert(data, Profile)
    except msgspec.ValidationError:
        from verse_tray.editors.faults import find_faults

        raise ProfileError(where, find_faults(deepcopy(data), text)) from None
