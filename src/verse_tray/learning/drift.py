"""What differs between two profiles of one editor, key by key."""

from __future__ import annotations

from typing import Any

import msgspec
from msgspec import Struct

from verse_tray.editors.profile import Profile

_NOT_RULES = ("title", "summary", "learned", "format", "frame", "theme", "variants", "extends", "leaveOut")


class Difference(Struct, frozen=True):
    """One rule that changed."""

    key: str
    """Dotted."""
    before: str
    """What it said; empty for nothing."""
    now: str
    """What it says; empty for nothing."""


def differences(old: Profile, new: Profile) -> list[Difference]:
    """Return the rules in which two profiles differ; of lists, the names that came and went."""
    before, now = _flat(msgspec.to_builtins(old)), _flat(msgspec.to_builtins(new))
    found = []
    for key in sorted(before.keys() | now.keys()):
        one, other = before.get(key), now.get(key)
        if one == other:
            continue
        if isinstance(one, list | tuple) or isinstance(other, list | tuple):
            was, is_ = [str(each) for each in one or []], [str(each) for each in other or []]
            gone, came = [each for each in was if each not in is_], [each for each in is_ if each not in was]
            if gone or came:
                found.append(Difference(key, ", ".join(gone), ", ".join(came)))
            continue
        found.append(Difference(key, "" if one is None else str(one), "" if other is None else str(other)))
    return found


def _flat(value: Any, path: str = "") -> dict[str, Any]:
    if not isinstance(value, dict):
        return {path: value}
    found: dict[str, Any] = {}
    for key, inner in value.items():
        if path or key not in _NOT_RULES:
            found.update(_flat(inner, f"{path}.{key}" if path else key))
    return found
