"""A profile, or another record, as TOML text."""

from __future__ import annotations

from functools import cache
from typing import Any

import tomlkit
from msgspec import Struct, structs

from verse_tray.editors.profile import Limit, Profile


def profile_toml(profile: Profile, title: str = "") -> str:
    """Return the text of an ``editor.toml`` that loads as this profile, or as one that is only called otherwise.

    Keys at their default are left out.
    """
    if title:
        profile = structs.replace(profile, title=title)
    return record_toml(structs.replace(profile, extends=None, leave_out=()), (Limit,))  # all of it is said here


def record_toml(record: Struct, tables: tuple[type[Struct], ...] = ()) -> str:
    """Return a record as TOML, keys at their default left out; lists of ``tables`` become tables of their own."""
    return tomlkit.dumps(_without_defaults(record, tables))


def _without_defaults(record: Struct, tables: tuple[type[Struct], ...]) -> dict[str, Any]:
    kept: dict[str, Any] = {}
    for field in _fields(type(record)):
        value = getattr(record, field.name)
        if value == (field.default_factory() if callable(field.default_factory) else field.default):
            continue
        kept[field.encode_name] = _plain(value, tables)
    return kept


@cache
def _fields(kind: type[Struct]) -> tuple[structs.FieldInfo, ...]:
    return structs.fields(kind)


def _plain(value: Any, tables: tuple[type[Struct], ...]) -> Any:
    if isinstance(value, Struct):
        return _without_defaults(value, tables)
    if isinstance(value, dict):
        return {key: _plain(inner, tables) for key, inner in value.items()}
    if isinstance(value, tuple) and value and isinstance(value[0], tables):
        each_a_table = tomlkit.aot()
        for item in value:
            each_a_table.append(tomlkit.item(_plain(item, tables)))
        return each_a_table
    if isinstance(value, tuple):
        items = [_plain(item, tables) for item in value]
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
