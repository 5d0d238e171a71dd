"""TOML as text: reading it, and where in it a key stands."""

from __future__ import annotations

import re
import tomllib
from typing import Any

from verse_tray.model.errors import ProfileFault
from verse_tray.model.patterns import lazy

_HEADER = lazy(r"\s*\[\[?\s*([^\]]+?)\s*\]\]?\s*(?:#.*)?$")
_KEY = lazy(r"(\s*)([A-Za-z0-9_.\"'-]+)\s*=")
_STEP = lazy(r"[^.\[\]]+")


class NotTomlError(Exception):
    """A text that is no TOML; carries what is wrong with it."""

    def __init__(self, fault: ProfileFault) -> None:
        super().__init__(fault.message)
        self.fault = fault
        """What is wrong, with its place."""


def parse_toml(text: str) -> dict[str, Any]:
    """Parse a text (TOML 1.0).

    Raises:
        NotTomlError: it is none.
    """
    try:
        return tomllib.loads(text)
    except (ValueError, RecursionError) as error:
        if not isinstance(error, tomllib.TOMLDecodeError | RecursionError):
            raise NotTomlError(ProfileFault("", "there is a number of thousands of digits in it")) from None
        place = re.search(r"\(at line (\d+), column (\d+)\)", str(error))
        message = re.sub(r" \(at .*\)$", "", str(error)) + "; expected TOML 1.0"
        line, column = (int(place[1]), int(place[2])) if place else (None, None)
        raise NotTomlError(ProfileFault("", message, line, column)) from None


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
