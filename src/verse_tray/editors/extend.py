"""Profiles that say only how they differ from another: merging mappings, and what is left out of the other."""

from __future__ import annotations

from collections.abc import Iterator
from copy import deepcopy
from typing import Any

_OWN = ("extends", "leaveOut")


def extended(base: dict[str, Any], own: dict[str, Any]) -> dict[str, Any]:
    """Return ``base`` without what ``own`` leaves out, and with what ``own`` says in place of it.

    Tables are merged key by key; everything else, lists included, is replaced.
    """
    merged = deepcopy(base)
    for path in _texts(own.get("leaveOut")):
        holder, key = _holder(merged, path)
        if holder is not None:
            holder.pop(key, None)
    return _merged(merged, {key: value for key, value in own.items() if key not in _OWN})


def unknown_left_out(base: dict[str, Any], own: dict[str, Any]) -> Iterator[tuple[int, str]]:
    """Yield number and text of the keys that ``own`` leaves out though ``base`` does not have them."""
    for index, path in enumerate(_texts(own.get("leaveOut"))):
        holder, key = _holder(base, path)
        if holder is None or key not in holder:
            yield index, path


def dotted_keys(data: dict[str, Any], before: str = "") -> Iterator[str]:
    """Yield the dotted path of every key of a mapping."""
    for key, value in data.items():
        yield before + key
        if isinstance(value, dict):
            yield from dotted_keys(value, f"{before}{key}.")


def _texts(value: Any) -> list[str]:
    return [each for each in value if isinstance(each, str)] if isinstance(value, list) else []


def _holder(data: dict[str, Any], path: str) -> tuple[dict[str, Any] | None, str]:
    *steps, key = path.split(".")
    holder: Any = data
    for step in steps:
        holder = holder.get(step) if isinstance(holder, dict) else None
    return (holder if isinstance(holder, dict) else None), key


def _merged(base: dict[str, Any], own: dict[str, Any]) -> dict[str, Any]:
    for key, value in own.items():
        inner = base.get(key)
        base[key] = _merged(inner, value) if isinstance(inner, dict) and isinstance(value, dict) else value
    return base
