"""Profiles from disk: strict, with every fault at once, each with its place and the nearest known name."""

from __future__ import annotations

import re
import tomllib
from functools import cached_property
from pathlib import Path
from typing import Any

import msgspec

from verse_tray.editors.profile import FORMAT, Profile
from verse_tray.editors.rules import Rules
from verse_tray.model.errors import ProfileError, ProfileFault, UnknownEditorError

STAND_INS = Path(__file__).parent / "stand_ins"
PIECE_MARK = "<!-- piece -->"
"""Where the piece goes in a page frame."""
PLAIN_FRAME = f'<!DOCTYPE html>\n<html lang="en">\n<body>\n{PIECE_MARK}\n</body>\n</html>\n'


class Editor:
    """One field of one platform."""

    def __init__(self, name: str, profile: Profile, folder: Path | None) -> None:
        self.name = name
        """Name by which it is called."""
        self.profile = profile
        """Its description."""
        self.folder = folder
        """Where its page frame and theme lie; None for an editor made in memory."""

    @cached_property
    def rules(self) -> Rules:
        """The lists of its ``save`` stage."""
        return Rules(self.profile.save)

    @cached_property
    def frame(self) -> str:
        """Its page frame, holding :data:`PIECE_MARK` once."""
        return self._read(self.profile.frame, PLAIN_FRAME)

    @cached_property
    def theme(self) -> str:
        """Its theme: CSS."""
        return self._read(self.profile.theme, "")

    def _read(self, file: str, otherwise: str) -> str:
        if self.folder is None or not (self.folder / file).is_file():
            return otherwise
        return (self.folder / file).read_text("utf-8")


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
    known = known_editors()
    if path.is_dir():
        return f"{name}: this folder holds no editor.toml."
    if "/" in name or name.endswith(".toml"):
        return f"{name}: no such file or folder. Give an editor's name, its folder or its TOML file."
    near = _nearest(name, known)
    hint = f"Did you mean {near}? " if near else ""
    return f"There is no editor named {name!r}. {hint}Known are: {', '.join(known)}, or all of them: all."


def _nearest(name: str, known: list[str]) -> str | None:
    import difflib

    return next(iter(difflib.get_close_matches(name, known, 1, 0.5)), None)


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
    editor = Editor(name, read_profile(data, str(path), text), path.parent)
    if editor.frame.count(PIECE_MARK) != 1:
        fault = ProfileFault(
            "frame", f"{editor.profile.frame} has to hold {PIECE_MARK} exactly once", *_locate(text, "frame")
        )
        raise ProfileError(str(path), [fault])
    return editor


_UNKNOWN_KEY = re.compile(r"Object contains unknown field `([^`]*)`")
_MISSING_KEY = re.compile(r"Object missing required field `([^`]*)`")
_PATH = re.compile(r" - at `\$\.?([^`]*)`$")


def read_profile(data: dict[str, Any], where: str, text: str = "") -> Profile:
    """Turn a mapping into a profile.

    Raises:
        ProfileError: with every fault; ``text`` is searched for their lines.
    """
    data = msgspec.json.decode(msgspec.json.encode(data))  # a copy of our own, to take faulty keys out of
    faults: list[ProfileFault] = []
    while True:
        try:
            profile = msgspec.convert(data, Profile)
            break
        except msgspec.ValidationError as error:
            fault, repaired = _fault(str(error), data, text)
            faults.append(fault)
            if not repaired:
                break
    if faults:
        faults.sort(key=lambda fault: fault.line or 0)
        raise ProfileError(where, faults)
    return profile


def _fault(message: str, data: dict[str, Any], text: str) -> tuple[ProfileFault, bool]:
    """Describe the first fault, and take it out of ``data`` so that the next one shows."""
    path_match = _PATH.search(message)
    path = path_match[1] if path_match else ""
    plain = _PATH.sub("", message)
    steps = [int(step) if step.isdigit() else step for step in re.findall(r"[^.\[\]]+", path)]
    if unknown := _UNKNOWN_KEY.match(plain):
        key = f"{path}.{unknown[1]}" if path else unknown[1]
        near = _nearest(unknown[1], _keys(steps))
        hint = f"; did you mean {near}?" if near else f"; known here are {', '.join(_keys(steps))}"
        _at(data, steps).pop(unknown[1])
        return ProfileFault(key, f"unknown key{hint}", *_locate(text, key)), True
    if missing := _MISSING_KEY.match(plain):
        key = f"{path}.{missing[1]}" if path else missing[1]
        fault = ProfileFault(key, "this key is missing", *_locate(text, path))
        if not steps:
            data[missing[1]] = FORMAT if missing[1] == "format" else ""
            return fault, True
        return fault, _take_out(data, steps)
    fault = ProfileFault(path, plain[:1].lower() + plain[1:], *_locate(text, path))
    return fault, _take_out(data, steps)


def _at(data: Any, steps: list[Any]) -> Any:
    for step in steps:
        data = data[step]
    return data


def _take_out(data: dict[str, Any], steps: list[Any]) -> bool:
    while steps and isinstance(steps[-1], str) and "..." in steps[-1]:  # msgspec's sign for any key of a mapping
        steps.pop()
    if not steps:
        return False
    if len(steps) == 1 and steps[0] in ("format", "title", "summary"):
        data[steps[0]] = FORMAT if steps[0] == "format" else ""
        return True
    del _at(data, steps[:-1])[steps[-1]]
    return True


def _keys(steps: list[Any]) -> list[str]:
    """Return the keys that are known at a place of a profile."""
    record: Any = Profile
    for step in steps:
        if isinstance(step, str):
            fields = {f.encode_name: f.type for f in msgspec.structs.fields(record)}
            record = fields.get(step, record)
        while not (isinstance(record, type) and issubclass(record, msgspec.Struct)):
            inner = [a for a in getattr(record, "__args__", ()) if a not in (str, type(None), ...)]
            if not inner:
                return []
            record = inner[0]
    return [f.encode_name for f in msgspec.structs.fields(record)]


_HEADER = re.compile(r"\s*\[\[?\s*([^\]]+?)\s*\]\]?\s*(?:#.*)?$")
_KEY = re.compile(r"(\s*)([A-Za-z0-9_.\"'-]+)\s*=")


def _locate(text: str, path: str) -> tuple[int | None, int | None]:
    """Return line and column (1-based) of the key at a dotted path, or of the nearest key around it."""
    wanted: list[str] = re.findall(r"[^.\[\]]+", path)
    best: tuple[int, int | None, int | None] = (0, None, None)
    table: list[str] = []
    counts: dict[str, int] = {}
    for number, line in enumerate(text.splitlines(), 1):
        if header := _HEADER.match(line):
            table = header[1].split(".")
            if line.lstrip().startswith("[["):
                counts[header[1]] = counts.get(header[1], -1) + 1
                table.append(str(counts[header[1]]))
            here, column = table, line.index("[") + 1
        elif key := _KEY.match(line):
            here, column = [*table, *key[2].replace('"', "").split(".")], len(key[1]) + 1
        else:
            continue
        if here == wanted[: len(here)] and len(here) > best[0]:
            best = (len(here), number, column)
    return best[1], best[2]
