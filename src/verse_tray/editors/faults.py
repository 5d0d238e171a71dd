"""What is wrong with a profile: every fault at once, in words, each with its place."""

from __future__ import annotations

from functools import cache
from typing import Any

import msgspec

from verse_tray.config.faults import find_faults
from verse_tray.config.toml_text import locate
from verse_tray.editors.extend import extended
from verse_tray.editors.filters import Filter
from verse_tray.editors.profile import Profile
from verse_tray.model.errors import ProfileFault
from verse_tray.style.syntax import SyntaxStringError, parse_syntax


def faults_of(data: dict[str, Any], text: str) -> list[ProfileFault]:
    """Return every fault of a profile in the order of its lines.

    Args:
        data: The profile as a mapping; it is mended on the way, so hand in a copy.
        text: Its TOML text, searched for the lines; may be empty.
    """
    try:
        msgspec.convert(data, Profile)
    except msgspec.ValidationError:
        return find_faults(data, msgspec.json.schema(Profile), text)
    return []


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
        faults += [*_syntaxes(record, stage, text), *_signs(record, stage, text)]
    return faults


def _syntaxes(record: Filter, stage: str, text: str) -> list[ProfileFault]:
    """Return a fault for every value syntax that is none, and for a gap that is no white space."""
    faults = []
    if record.block_gap.strip(" \t\n"):
        path = f"{stage}.blockGap"
        faults.append(ProfileFault(path, "a gap between blocks is white space", *locate(text, path)))
    if any((each or "").strip(" :;") for each in (record.styles.colon, record.styles.separator)):
        path = f"{stage}.styles"
        said = "colon and separator hold blanks and their own sign only"
        faults.append(ProfileFault(path, said, *locate(text, path)))
    found = [(f"styles.syntax.{name}", syntax) for name, syntax in record.styles.syntax.items()]
    found += [(f"attributeSyntax.{name}", syntax) for name, syntax in record.attribute_syntax.items()]
    for key, syntax in found:
        try:
            parse_syntax(syntax)
        except SyntaxStringError as error:
            path = f"{stage}.{key}"
            faults.append(ProfileFault(path, f"this is no CSS syntax string: {error}", *locate(text, path)))
    return faults


def _signs(record: Filter, stage: str, text: str) -> list[ProfileFault]:
    """Return a fault for every sign that would be written as another."""
    from verse_tray.markup.references import decode

    faults = []
    for key, signs, in_value in (("textSigns", record.text_signs, False), ("valueSigns", record.value_signs, True)):
        for sign, written in signs.items():
            path = f"{stage}.{key}.{sign}"
            if len(sign) != 1 or decode(written, attribute=in_value)[0] != sign or (in_value and written == '"'):
                said = f"{written!r} does not stand for {sign!r}; write one sign, and a reference to that same sign"
                faults.append(ProfileFault(path, said, *locate(text, path)))
    return faults


def _names(record: Any, key: str) -> list[tuple[str, str]]:
    """Return namespace (empty for any) and name of everything in a list of a record."""
    for step in key.split("."):
        kind: type[msgspec.Struct] = type(record)
        record = getattr(record, _fields(kind)[step])
    return [("", each) if isinstance(each, str) else (each.namespace or "", each.name) for each in record or ()]


@cache
def _fields(kind: type[msgspec.Struct]) -> dict[str, str]:
    """Return the names of a record's fields by their keys; finding them out takes milliseconds each time."""
    return {field.encode_name: field.name for field in msgspec.structs.fields(kind)}


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
        found = faults_of(mended, "")
        if not found:
            found = contradictions(msgspec.convert(mended, Profile), "")
        for fault in found:
            path = f"variants.{name}.{fault.path}"
            if locate(text, path)[0] is not None and fault.path:
                faults.append(ProfileFault(path, fault.message, *locate(text, path)))
    return faults
