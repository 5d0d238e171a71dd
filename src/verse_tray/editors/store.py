"""A profile as TOML text."""

from __future__ import annotations

from typing import Any

import msgspec
import tomlkit

from verse_tray.editors.profile import Limit, Profile


def profile_toml(profile: Profile, title: str = "") -> str:
    """Return the text of an ``editor.toml`` that loads as this profile, or as one that is only called otherwise.

    Keys at their default are left out.
    """
    record: dict[str, Any] = _without_defaults(profile)
    if title:
        record["title"] = title
    record.pop("extends", None)  # all of it is said here
    record.pop("leaveOut", None)
    return tomlkit.dumps({"format": profile.format, **record})


def _without_defaults(record: msgspec.Struct) -> dict[str, Any]:
    kept: dict[str, Any] = {}
    for field in msgspec.structs.fields(record):
        value = getattr(record, field.name)
        if value == (field.default_factory() if callable(field.default_factory) else field.default):
            continue
        kept[field.encode_name] = _plain(value)
    return kept


def _plain(value: Any) -> Any:
    if isinstance(value, msgspec.Struct):
        return _without_defaults(value)
    if isinstance(value, dict):
        return {key: _plain(inner) for key, inner in value.items()}
    if isinstance(value, tuple) and value and isinstance(value[0], Limit):
        tables = tomlkit.aot()
        for item in value:
            tables.append(tomlkit.item(_plain(item)))
        return tables
    if isinstance(value, tuple):
        items = [_plain(item) for item in value]
        if any(isinstance(item, dict) for item in items):
            rows = tomlkit.array()
            rows.multiline(True)
            for item in items:
                rows.append(_inline(item) if isinstance(item, dict) else item)
            return rows
        return items
    return value


def _inline(item: dict[str, Any]) -> Any:
    table = tomlkit.inline_table()
    table.update(item)
    return table
