"""Positions among what stands in a region: a number, or before or behind an item."""

from __future__ import annotations

import re

from verse_tray.model.errors import UnknownSiteError
from verse_tray.model.phrasing import nearest
from verse_tray.sites.load import Where


def position_of(where: Where, position: str, names: list[str]) -> int:
    """Return the place, from 0 on, that a position means.

    Args:
        where: The region.
        position: A number from 1 on, ``before ITEM`` or ``after ITEM``; empty for behind everything.
        names: What stands there, in order.

    Raises:
        UnknownSiteError: there is no such place.
    """
    there = ", ".join(f"{number} {name}" for number, name in enumerate(names, 1)) or "nothing"
    stands = f"There stands, in order: {there}."
    if not position.strip():
        return len(names)
    if re.fullmatch(r"\s*\d{1,6}\s*", position):
        number = int(position)
        if not 1 <= number <= len(names) + 1:
            raise UnknownSiteError(f"{where.name} has no position {number}: 1 to {len(names) + 1} are there. {stands}")
        return number - 1
    match = re.fullmatch(r"\s*(before|after)\s+(.+?)\s*", position, re.IGNORECASE | re.DOTALL)
    if match is None:
        raise UnknownSiteError(
            f"--position {position}: expected a number, before ITEM or after ITEM. In {where.name}: {stands}"
        )
    folded = [name.casefold() for name in names]
    wanted = match[2].casefold()
    if wanted not in folded:
        near = nearest(match[2], names)
        hint = f"Did you mean {near}? " if near else ""
        raise UnknownSiteError(f"{where.name} has no item {match[2]!r}. {hint}{stands}")
    return folded.index(wanted) + (match[1].lower() == "after")
