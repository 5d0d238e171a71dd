"""What is wrong with a profile: every fault at once, in words, each with its place."""

from __future__ import annotations

import re
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

import msgspec

from verse_tray.editors.extend import extended
from verse_tray.editors.filters import Filter
from verse_tray.editors.profile import Profile
from verse_tray.model.errors import ProfileFault
from verse_tray.model.phrasing import nearest

_UNKNOWN_KEY = re.compile(r"Object contains unknown field `([^`]*)`")
_MISSING_KEY = re.compile(r"Object missing required field `([^`]*)`")
_PATH = re.compile(r" - at `\$\.?([^`]*)`$")
_STEP = re.compile(r"[^.\[\]]+|\.\.\.")
_WORDS = {"str": "text", "array": "a list", "object": "a table", "int": "a whole number", "bool": "true or false"}


def find_faults(data: dict[str, Any], text: str) -> list[ProfileFault]:
    """Return every fault of a profile in the order of its lines.

    Args:
        data: The profile as a mapping; it is mended on the way, so hand in a copy.
        text: Its TOML text, searched for the lines; may be empty.
    """
    faults = []
    while True:
        try:
            msgspec.convert(data, Profile)
        except msgspec.ValidationError as error:
            faults.append(_mend(str(error), data, text))
        else:
            return sorted(faults, key=lambda fault: fault.line or 0)


def contradictions(profile: Profile, text: str) -> list[ProfileFault]:
    """Return a fault for every name that two lists of a stage treat differently.

    Args:
        profile: The profile.
        text: Its TOML text, searched for the lines; may be empty.
    """
    faults = []
    for stage in ("paste", "save", "reopen", "publish"):
        record: Filter | None = getattr(profile, stage)
        if record is None:
            continue
        elements = ("elements", "removeElements", "replaceWithChildrenElements", "escapeElements")
        for keys in (elements, ("attributes", "removeAttributes"), ("styles.properties", "styles.removeProperties"),
                     ("addresses.schemes", "addresses.removeSchemes")):  # fmt: skip
            held: dict[object, str] = {}
            for key in keys:
                for name in _names(record, key):
                    if name in held and held[name] != key:
                        path = f"{stage}.{key}"
                        said = f"{name[1]} stands in {held[name]} as well; leave it in one of the two"
                        faults.append(ProfileFault(path, said, *locate(text, path)))
                    held.setdefault(name, key)
    return faults


def _names(record: Any, key: str) -> list[tuple[str, str]]:
    """Return namespace (empty for any) and name of everything in a list of a record."""
    for step in key.split("."):
        fields = {field.encode_name: field.name for field in msgspec.structs.fields(record)}
        record = getattr(record, fields[step])
    return [("", each) if isinstance(each, str) else (each.namespace or "", each.name) for each in record or ()]


def variant_faults(profile: Profile, data: dict[str, Any], text: str) -> list[ProfileFault]:
    """Return the faults of a profile's variants."""
    faults = []
    plain = {key: value for key, value in data.items() if key != "variants"}
    base: dict[str, Any] = {"title": "x", "summary": "x", "format": "verse-tray-editor/1", **plain}
    for name, own in profile.variants.items():
        for key in ("format", "extends", "variants"):
            if key in own:
                path = f"variants.{name}.{key}"
                faults.append(
                    ProfileFault(path, "a variant cannot say this; only the profile can", *locate(text, path))
                )
        mended = extended(base, own)
        found = find_faults(mended, "")
        if not found:
            found = contradictions(msgspec.convert(mended, Profile), "")
        for fault in found:
            path = f"variants.{name}.{fault.path}"
            if locate(text, path)[0] is not None and fault.path:
                faults.append(ProfileFault(path, fault.message, *locate(text, path)))
    return faults


def _mend(message: str, data: dict[str, Any], text: str) -> ProfileFault:
    """Describe the first fault, and put something valid in its place so that the next one shows."""
    found = _PATH.search(message)
    path = found[1] if found else ""
    plain = _PATH.sub("", message)
    steps = _named([int(step) if step.isdigit() else step for step in _STEP.findall(path)], data)
    path = "".join(f"[{step}]" if isinstance(step, int) else f".{step}" for step in steps).lstrip(".")
    key = _UNKNOWN_KEY.match(plain) or _MISSING_KEY.match(plain)
    if key is None:
        fault = ProfileFault(path, f"expected {_expected(_type_at(steps), plain)}", *locate(text, path))
        _inside(data, steps[:-1])[steps[-1]] = _valid(_type_at(steps))
        return fault
    name = key[1]
    whole = f"{path}.{name}" if path else name
    holder = _inside(data, steps)
    if plain.startswith("Object missing"):
        holder[name] = _valid(_type_at([*steps, name]))
        return ProfileFault(whole, "this key is missing", *locate(text, path))
    del holder[name]
    known = [field.encode_name for field in msgspec.structs.fields(_record(_type_at(steps)))]
    near = nearest(name, known)
    hint = f"did you mean {near}?" if near else f"known here are {', '.join(known)}"
    return ProfileFault(whole, f"unknown key; {hint}", *locate(text, whole))


def _named(steps: list[Any], data: dict[str, Any]) -> list[Any]:
    """Return a path in which ``...``, any key of a mapping, is the first key whose value does not fit."""
    found: list[Any] = []
    for step in steps:
        if step == "...":
            mapping = _inside(data, found)
            step = next(key for key, value in mapping.items() if not _fits(value, _type_at([*found, key])))
        found.append(step)
    return found


def _fits(value: Any, kind: Any) -> bool:
    try:
        msgspec.convert(value, kind)
    except msgspec.ValidationError:
        return False
    return True


def _inside(data: Any, steps: list[Any]) -> Any:
    for step in steps:
        data = data[step]
    return data


def _choices(kind: Any) -> tuple[Any, ...]:
    return get_args(kind) if get_origin(kind) in (Union, UnionType) else (kind,)


def _record(kind: Any) -> type[msgspec.Struct]:
    """Return the record among the choices of a type."""
    return next(each for each in _choices(kind) if isinstance(each, type) and issubclass(each, msgspec.Struct))


def _type_at(steps: list[Any]) -> Any:
    """Return the type that a place of a profile has to have."""
    kind: Any = Profile
    for step in steps:
        if isinstance(step, int):
            kind = get_args(next(each for each in _choices(kind) if get_origin(each) is tuple))[0]
        elif (mapping := next((each for each in _choices(kind) if get_origin(each) is dict), None)) is not None:
            kind = get_args(mapping)[1]
        else:
            kind = next(field.type for field in msgspec.structs.fields(_record(kind)) if field.encode_name == step)
    return kind


def _valid(kind: Any) -> Any:
    """Return some valid value of a type."""
    kind = _choices(kind)[0]
    origin = get_origin(kind)
    if origin is Literal:
        return get_args(kind)[0]
    if origin is Annotated:
        return _valid(get_args(kind)[0])
    if isinstance(kind, type) and issubclass(kind, msgspec.Struct):
        return {f.encode_name: _valid(f.type) for f in msgspec.structs.fields(kind) if f.required}
    return {str: "x", bool: True, int: 1, tuple: [], dict: {}}[origin or kind]


def _expected(kind: Any, message: str) -> str:
    literal = next((each for each in _choices(kind) if get_origin(each) is Literal), None)
    if literal is not None:
        return "one of " + ", ".join(get_args(literal))
    message = message.replace(" of length >= 1", " that is not empty")
    words = message.removeprefix("Expected ").replace(" | null", "").replace("`", "").replace(" >= 1", ", 1 or more")
    return re.sub(r"\b(str|array|object|int|bool)\b", lambda word: _WORDS[word[0]], words).replace(" | ", " or ")


_HEADER = re.compile(r"\s*\[\[?\s*([^\]]+?)\s*\]\]?\s*(?:#.*)?$")
_KEY = re.compile(r"(\s*)([A-Za-z0-9_.\"'-]+)\s*=")


def locate(text: str, path: str) -> tuple[int | None, int | None]:
    """Return line and column (1-based) of the key at a dotted path, or of the nearest key around it."""
    wanted: list[str] = _STEP.findall(path)
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
        depth = min(len(here), len(wanted))
        if here[:depth] == wanted[:depth] and depth > best[0]:
            best = (depth, number, column)
    return best[1], best[2]
