"""Whether a configuration of the HTML Sanitizer API is valid, once it is canonicalised."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from verse_tray.editors.filters import HTML_NAMESPACE
from verse_tray.model.errors import ProfileFault

_LISTS = ("elements", "removeElements", "replaceWithChildrenElements", "attributes", "removeAttributes")
_KNOWN = (*_LISTS, "comments", "dataAttributes")
_OWN = ("attributes", "removeAttributes")

_Name = tuple[str, str]
"""Namespace and name."""


def configuration_faults(config: Any, *, safe: bool) -> list[ProfileFault]:
    """Return what is wrong with a configuration; ``safe`` says whether it is for the safe methods."""
    if not isinstance(config, dict):
        return [ProfileFault("", "expected a JSON object with the members of a SanitizerConfig")]
    faults = [
        ProfileFault(key, f"not a member of a SanitizerConfig; known are {', '.join(_KNOWN)}")
        for key in config
        if key not in _KNOWN
    ]
    for first, second in (("elements", "removeElements"), ("attributes", "removeAttributes")):
        if first in config and second in config:
            faults.append(ProfileFault(second, f"{first} and {second} cannot both be given"))
    for key in _LISTS:
        faults += _list_faults(config.get(key, []), key)
    for key in ("comments", "dataAttributes"):
        if key in config and not isinstance(config[key], bool):
            faults.append(ProfileFault(key, "expected true or false"))
    return faults or [*_contradictions(config, safe)]


def _list_faults(items: Any, path: str) -> list[ProfileFault]:
    """Return the faults of a list of names, and of the lists that its elements have of their own."""
    if not isinstance(items, list):
        return [ProfileFault(path, "expected a list")]
    faults = []
    for index, item in enumerate(items):
        here = f"{path}[{index}]"
        if isinstance(item, dict) and isinstance(item.get("name"), str):
            if not isinstance(item.get("namespace"), str | None):
                faults.append(ProfileFault(f"{here}.namespace", "expected an address, or null"))
            for key in _OWN:
                faults += _list_faults(item.get(key, []), f"{here}.{key}")
        elif not isinstance(item, str):
            faults.append(ProfileFault(here, "expected a name, or an object with a name"))
    return faults


def _contradictions(config: dict[str, Any], safe: bool) -> Iterator[ProfileFault]:
    lists = {key: _names(config[key], attributes=key in _OWN) for key in _LISTS if key in config}
    for key, names in lists.items():
        yield from _twice(names, key)
    replaced = lists.get("replaceWithChildrenElements", [])
    for key in ("elements", "removeElements"):
        yield from _shared(replaced, lists.get(key, []), "replaceWithChildrenElements", key)
    if (HTML_NAMESPACE, "html") in replaced:
        yield ProfileFault("replaceWithChildrenElements", "html cannot be replaced with its children")
    kept = lists.get("attributes")
    data = config.get("dataAttributes", not safe) if kept is not None else False
    if kept is None and "dataAttributes" in config:
        yield ProfileFault("dataAttributes", "it can be given only where attributes is")
    if data:
        yield from _data(kept or [], "attributes")
    for index, item in enumerate(config.get("elements", [])):
        if isinstance(item, dict):
            yield from _own(item, f"elements[{index}]", kept, lists.get("removeAttributes", []), data)


def _own(
    item: dict[str, Any], path: str, kept: list[_Name] | None, removed: list[_Name], data: bool
) -> Iterator[ProfileFault]:
    """Yield what is wrong with the lists that one element has of its own."""
    own, gone = (_names(item.get(key, []), attributes=True) for key in _OWN)
    yield from _twice(own, f"{path}.attributes")
    yield from _twice(gone, f"{path}.removeAttributes")
    if kept is None:
        if "attributes" in item and "removeAttributes" in item:
            yield ProfileFault(path, "attributes and removeAttributes cannot both be given where attributes is not")
        yield from _shared(own, removed, f"{path}.attributes", "removeAttributes")
        yield from _shared(gone, removed, f"{path}.removeAttributes", "removeAttributes")
        return
    yield from _shared(own, kept, f"{path}.attributes", "attributes")
    for _, name in [each for each in gone if each not in kept]:
        yield ProfileFault(f"{path}.removeAttributes", f"{name} is not among the attributes that are kept")
    if data:
        yield from _data(own, f"{path}.attributes")


def _names(items: list[Any], *, attributes: bool) -> list[_Name]:
    otherwise = "" if attributes else HTML_NAMESPACE
    return [
        (otherwise, item) if isinstance(item, str) else (item.get("namespace", otherwise) or "", item["name"])
        for item in items
    ]


def _twice(names: list[_Name], path: str) -> Iterator[ProfileFault]:
    for name in dict.fromkeys(each for each in names if names.count(each) > 1):
        yield ProfileFault(path, f"{name[1]} is given twice")


def _shared(names: list[_Name], others: list[_Name], path: str, other: str) -> Iterator[ProfileFault]:
    for _, name in dict.fromkeys(each for each in names if each in others):
        yield ProfileFault(path, f"{name} stands in {other} as well")


def _data(names: list[_Name], path: str) -> Iterator[ProfileFault]:
    for _, name in [each for each in names if not each[0] and each[1].startswith("data-")]:
        yield ProfileFault(path, f"{name} is kept already, as dataAttributes is true")
