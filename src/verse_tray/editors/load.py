"""Profiles from disk: strict, with every fault at once, each with its place and the nearest known name."""

from __future__ import annotations

import os
import re
from copy import deepcopy
from functools import cached_property
from pathlib import Path
from typing import Any

import msgspec

from verse_tray.config.toml_text import NotTomlError, locate, parse_toml
from verse_tray.editors.extend import extended
from verse_tray.editors.filters import Filter
from verse_tray.editors.lists import Lists
from verse_tray.editors.profile import FORMAT, Profile
from verse_tray.model.errors import ProfileError, ProfileFault, UnknownEditorError
from verse_tray.model.inputs import read_beside, read_file

STAND_INS = Path(__file__).parent / "stand_ins"
PIECE_MARK = "<!-- piece -->"
"""Where the piece goes in a page frame."""
PLAIN_FRAME = f'<!DOCTYPE html>\n<html lang="en">\n<body>\n{PIECE_MARK}\n</body>\n</html>\n'


class Editor:
    """One field of one platform."""

    def __init__(
        self, name: str, profile: Profile, frame: str = PLAIN_FRAME, theme: str = "", folder: Path | None = None
    ) -> None:
        self.name = name
        """Name by which it is called."""
        self.profile = profile
        """Its description."""
        self.frame = frame
        """Its page frame, holding :data:`PIECE_MARK`, once for each region."""
        self.theme = theme
        """Its usual theme: CSS."""
        self.asked = name
        """Name or path by which it was asked for."""
        self.folder = folder
        """Folder in which its themes stand; None when it has none."""

    def with_(self, *, name: str | None = None, profile: Profile | None = None, frame: str | None = None) -> Editor:
        """Return the same editor with another name, description or page frame; themes and folder stay."""
        found = Editor(name or self.name, profile or self.profile, frame or self.frame, self.theme, self.folder)
        found.asked = self.asked
        return found

    @cached_property
    def lists(self) -> dict[str, Lists]:
        """The lists of its stages, by the stage's name; a stage that does nothing is missing."""
        profile = self.profile
        stages: dict[str, Filter | None] = {
            "paste": profile.paste, "save": profile.save, "reopen": profile.reopen, "publish": profile.publish,
        }  # fmt: skip
        return {
            name: Lists(each)
            for name, each in stages.items()
            if each is not None and (name == "reopen" or each != type(each)())
        }

    @property
    def confidence(self) -> int | None:
        """Of 100 pieces, how many a learned editor is expected to predict right; None for one that was not learned."""
        return None if self.profile.learned is None else self.profile.learned.confidence

    @property
    def style_prefixes(self) -> tuple[str, ...]:
        """What its stages put in front of the selectors of style elements."""
        return tuple(each.record.style_prefix for each in self.lists.values() if each.record.style_prefix)


def known_editors() -> list[str]:
    """Return the names of the stand-ins, in order, variants left out."""
    return sorted(folder.name for folder in STAND_INS.iterdir() if (folder / "editor.toml").is_file())


def load_editor(name_or_path: str | Path) -> Editor:
    """Load an editor by its name, or from its folder or TOML file; ``:VARIANT`` behind it names a setting or a role.

    Raises:
        UnknownEditorError: no editor or variant of that name, and no such path.
        ProfileError: the profile cannot be used; every fault is named.
    """
    name, variant = str(name_or_path), ""
    path = _path_of(name)
    if path is None and ":" in name:
        name, _, variant = name.rpartition(":")
        path = _path_of(name)
    if path is None:
        raise UnknownEditorError(_unknown(name))
    loaded = _load(path, ())
    called = _called(path, name)
    found = _variant(path, called, loaded, variant) if variant else Editor(called, loaded.profile, *loaded.page)
    found.asked = str(name_or_path)
    return found


def _path_of(name: str) -> Path | None:
    """Return the TOML file that a name or path stands for."""
    if re.fullmatch(r"[a-z0-9-]{1,100}", name) and (STAND_INS / name / "editor.toml").is_file():
        return STAND_INS / name / "editor.toml"
    path = Path(name)
    try:
        if (path / "editor.toml").is_file():
            return path / "editor.toml"
        return path if path.is_file() else None
    except (OSError, ValueError):
        return None


def _called(path: Path, name: str) -> str:
    if path.parent.parent == STAND_INS:
        return name
    return path.stem if path.stem != "editor" else path.resolve().parent.name


def _unknown(name: str) -> str:
    from verse_tray.model.phrasing import nearest

    known = known_editors()
    if os.path.isdir(name):  # noqa: PTH112 (a name too long for any file is none)
        return f"{name}: this folder holds no editor.toml. Give a folder that holds one, or a TOML file."
    if "/" in name or name.endswith(".toml"):
        return f"{name}: no such file or folder. Give an editor's name, its folder or its TOML file."
    near = nearest(name, known)
    hint = f"Did you mean {near}? " if near else ""
    return f"There is no editor named {name!r}. {hint}Known are: {', '.join(known)}, or all of them: all."


class _Loaded:
    """A profile that was read, what it extends worked in."""

    def __init__(self, data: dict[str, Any], profile: Profile, page: tuple[str, str, Path | None]) -> None:
        self.data = data
        self.profile = profile
        self.page = page
        """Page frame, theme, and the folder of the theme."""


def _load(path: Path, within: tuple[Path, ...]) -> _Loaded:
    """Read a profile that those ``within`` extend, the one that was asked for first."""
    text, own = _parse(path)
    faults: list[ProfileFault] = []
    base = _base(path, own, text, (*within, path.resolve()), faults)
    data = own if base is None else extended(base.data, own)
    try:
        profile = msgspec.convert(data, Profile)
    except msgspec.ValidationError:
        from verse_tray.editors.faults import faults_of

        data = deepcopy(data)
        faults += faults_of(data, text)  # and mends them
        profile = msgspec.convert(data, Profile)
    page = _page(path, profile, own, text, base, faults)
    ours = path.parent.parent == STAND_INS  # tested: looking for faults that only words can be wrong about takes time
    if not ours or faults:
        from verse_tray.editors.faults import contradictions, variant_faults

        faults += contradictions(profile, text)
        faults += variant_faults(profile, data, text)
        if base is not None:
            faults += _left_out(base.data, own, text)
    if faults:
        raise ProfileError(str(path), sorted(faults, key=lambda fault: fault.line or 0))
    return _Loaded(data, profile, page)


def _parse(path: Path) -> tuple[str, dict[str, Any]]:
    try:
        text = read_file(path).decode("utf-8")
    except UnicodeDecodeError as error:
        fault = ProfileFault("", f"byte {error.start} is not UTF-8; save it as UTF-8")
        raise ProfileError(str(path), [fault]) from None
    except OSError as error:
        raise ProfileError(str(path), [ProfileFault("", error.strerror or str(error))]) from None
    try:
        return text, parse_toml(text)
    except NotTomlError as error:
        raise ProfileError(str(path), [error.fault]) from None


def _base(
    path: Path, own: dict[str, Any], text: str, within: tuple[Path, ...], faults: list[ProfileFault]
) -> _Loaded | None:
    """Return the profile that one extends; what is wrong with it is a fault of that line."""
    name = own.get("extends")
    if not isinstance(name, str):
        return None
    beside, variant = _path_of(str(path.parent / name)), ""
    found = beside or _path_of(name)
    if found is None and ":" in name:
        name, _, variant = name.rpartition(":")
        found = _path_of(str(path.parent / name)) or _path_of(name)
    if found is None:
        faults.append(_fault("extends", _unknown(name), text))
        return None
    if found.resolve() in within:
        circle = [*within[within.index(found.resolve()) :], found.resolve()]
        names = " → ".join(_called(each, each.parent.name) for each in circle)
        faults.append(_fault("extends", f"this goes round in a circle: {names}; one of them has to stand alone", text))
        return None
    try:
        loaded = _load(found, within)
        if variant:
            profile = _variant(found, name, loaded, variant).profile
            loaded = _Loaded(_variant_data(loaded.data, variant), profile, loaded.page)
    except (ProfileError, UnknownEditorError) as error:
        faults.append(_fault("extends", f"{name} cannot be extended: {error}", text))
        return None
    return loaded


def _variant_data(data: dict[str, Any], variant: str) -> dict[str, Any]:
    own = {"title": f"{data['title']}, {variant}", **data["variants"][variant]}
    return extended({key: value for key, value in data.items() if key != "variants"}, own)


def _variant(path: Path, name: str, loaded: _Loaded, variant: str) -> Editor:
    known = loaded.profile.variants
    if variant not in known:
        told = f"Known are: {', '.join(known)}." if known else "It has none."
        raise UnknownEditorError(f"The editor {name} has no variant {variant!r}. {told}")
    profile = read_profile(_variant_data(loaded.data, variant), f"{path}, variant {variant}")
    return Editor(f"{name}:{variant}", profile, *loaded.page)


def _page(
    path: Path, profile: Profile, own: dict[str, Any], text: str, base: _Loaded | None, faults: list[ProfileFault]
) -> tuple[str, str, Path | None]:
    """Return page frame, theme and the theme's folder: beside the profile, or those of the one that it extends."""
    frame = _beside(path, profile.frame, "frame", text if "frame" in own else "", faults)
    theme = _beside(path, profile.theme, "theme", text if "theme" in own else "", faults)
    wanted = max(1, len(profile.regions))
    if frame is not None and frame.count(PIECE_MARK) != wanted:
        often = "exactly once" if wanted == 1 else f"{wanted} times, once for each region"
        faults.append(_fault("frame", f"{profile.frame} has to hold {PIECE_MARK} {often}", text))
    otherwise = base.page if base else (PLAIN_FRAME.replace(PIECE_MARK, "\n".join([PIECE_MARK] * wanted)), "", None)
    own_theme = otherwise[1:] if theme is None else (theme, path.parent)
    return otherwise[0] if frame is None else frame, *own_theme


def _beside(profile: Path, file: str, key: str, text: str, faults: list[ProfileFault]) -> str | None:
    """Read a file of a profile's folder; None when there is none and ``text``, the profile, does not ask for it."""
    if not text and not (profile.parent / file).exists():
        return None
    read, fault = read_beside(profile, file, "profile")
    if fault:
        faults.append(_fault(key, fault, text))
    return read


def _left_out(base: dict[str, Any], own: dict[str, Any], text: str) -> list[ProfileFault]:
    from verse_tray.editors.extend import dotted_keys, unknown_left_out
    from verse_tray.model.phrasing import nearest

    known = list(dotted_keys(base))
    faults = []
    for index, path in unknown_left_out(base, own):
        near = nearest(path, known)
        hint = f"; did you mean {near}?" if near else ""
        faults.append(
            _fault(f"leaveOut[{index}]", f"the extended editor says nothing of {path}, so it cannot be left out{hint}",
                   text)
        )  # fmt: skip
    return faults


def _fault(key: str, message: str, text: str) -> ProfileFault:
    return ProfileFault(key, message, *locate(text, key))


def read_profile(data: dict[str, Any], where: str, text: str = "") -> Profile:
    """Turn a mapping into a profile.

    Raises:
        ProfileError: with every fault; ``text`` is searched for their lines.
    """
    try:
        return msgspec.convert({"format": FORMAT, **data}, Profile)
    except msgspec.ValidationError:
        from verse_tray.editors.faults import faults_of

        raise ProfileError(where, faults_of({"format": FORMAT, **deepcopy(data)}, text)) from None
