"""What browsers know of each property: its longhands, and the values that it takes.

The table is read from one by ``tools/read_properties.py``.
"""

from __future__ import annotations

from functools import cache, lru_cache
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct


class Values(Struct, frozen=True):
    """What a longhand takes."""

    types: frozenset[str]
    """Types of a value of one word: ``length``, ``negative`` (length), ``percentage``, ``zero``, ``integer``,
    ``number``, ``below`` (a negative number), ``colour``, ``address``, ``image``, ``string``, ``time``, ``angle``,
    ``share`` (``fr``), ``own`` (a name of the author's)."""
    words: frozenset[str]
    """Keywords; of colours none, they are told by their type."""
    functions: frozenset[str]
    """Names of functions, beside those of numbers, colours, addresses and images."""
    several: bool
    """Whether it takes more than one word."""


@cache
def _table() -> dict[str, Any]:
    table: dict[str, Any] = msgspec.json.decode(Path(__file__).with_suffix(".json").read_bytes())
    return table


@lru_cache(maxsize=1024)
def values_of(name: str) -> Values | None:
    """Return what a longhand takes; None for a shorthand, and for what browsers do not know."""
    row = _table()["values"].get(name)
    if row is None:
        return None
    types, words, functions, several = row
    return Values(frozenset(types.split()), frozenset(words.split()), frozenset(functions.split()), several)


@lru_cache(maxsize=1024)
def canonical(name: str) -> str:
    """Return the name that a property goes by now: ``overflow-wrap`` for ``word-wrap``."""
    table = _table()
    if (
        name.startswith("-webkit-")
        and name not in table["values"]
        and name[8:] in {*table["values"], *table["shorthands"]}
    ):
        return name[8:]
    now: str = table["aliases"].get(name, name)
    return "gap" if now == "grid-gap" else now


@lru_cache(maxsize=1024)
def longhands(name: str) -> tuple[str, ...]:
    """Return the longhands that a property sets; itself for a longhand, none for what browsers do not know."""
    table = _table()
    if (found := table["shorthands"].get(name)) is not None:
        return tuple(found.split())
    return (name,) if name in table["values"] or name.startswith("--") else ()


def are_one(one: str, other: str) -> bool:
    """Tell whether two properties are the same, or a shorthand and one of its longhands, or share a longhand."""
    return one == other or bool({one, *longhands(one)} & {other, *longhands(other)})


@cache
def inherited() -> frozenset[str]:
    """Return the longhands whose value elements take from what is around them."""
    return frozenset(_table()["inherited"].split()) | {"text-shadow", "border-spacing", "orphans", "widows"}


@lru_cache(maxsize=1024)
def hides(name: str) -> frozenset[str]:
    """Return the properties of which nothing is left behind a declaration of ``name``: what is wholly part of it."""
    table = _table()
    own = set(longhands(name))
    if len(own) < 2:
        return frozenset()
    whole = {short for short, parts in table["shorthands"].items() if short != name and own.issuperset(parts.split())}
    return frozenset(own | whole)


def is_known(name: str) -> bool:
    """Tell whether browsers know a property."""
    table = _table()
    return name in table["values"] or name in table["shorthands"] or name in table["aliases"] or name == "all"
