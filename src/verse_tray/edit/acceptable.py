"""Whether a value can stand where an author wants it: for its property, its attribute, its address."""

from __future__ import annotations

import re
from collections import Counter

from verse_tray.checks.find import find
from verse_tray.markup.addresses import ADDRESS_ATTRIBUTES
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.phrasing import listed
from verse_tray.piece.addresses import may_be_filled
from verse_tray.piece.meant_address import meant_address
from verse_tray.piece.piece import Piece
from verse_tray.style.colours import parse_colour, written
from verse_tray.style.property_table import canonical, values_of
from verse_tray.style.validity import is_valid

_NUMBERS = frozenset(
    "width height size cols rows span colspan rowspan border cellpadding cellspacing tabindex maxlength".split()
)
_COLOURS = frozenset("bgcolor color text link vlink alink".split())
_LISTS_OF_ADDRESSES = frozenset(("srcset", "usemap", "ping"))
_NEVER = frozenset(("styles/unknown-value", "styles/unit-missing", "styles/unreadable", "links/space"))
"""Rules whose mistakes are no matter of taste, though not errors."""


def check_value(declared: str, value: str, name: str, *, only_unit: bool = False) -> None:
    """Refuse a value that a property does not take.

    Args:
        declared: The property.
        value: The value.
        name: What the author calls it.
        only_unit: Whether only a missing unit is looked for, where the value is a part of a longer one.

    Raises:
        InputError: the property does not take it.
    """
    if declared.startswith("-") or is_valid(declared, value):
        return
    if re.fullmatch(r"[+-]?\d*\.?\d+", value) and is_valid(declared, f"{value}px"):
        raise InputError(f"--set {name}={value}: a size needs a unit here. Write {value}px.")
    if only_unit:
        return
    allowed = values_of(canonical(declared))
    words = (
        sorted(word for word in allowed.words if word[0] != "-" and word != "revert-rule")
        if allowed is not None
        else []
    )
    takes = f" It takes words such as {listed(words[:5], 5, 'or')}." if words else ""
    raise InputError(f"--set {name}={value}: {declared} does not take this.{takes}")


def attribute_value(name: str, value: str, what: str, told: list[str] | None = None) -> str:
    """Return a value as an attribute can hold it: an address mended, a colour in the form that attributes know.

    Args:
        name: The attribute.
        value: The value.
        what: What begins a message.
        told: Is given what was mended.

    Raises:
        InputError: it cannot stand there.
    """
    if name in ADDRESS_ATTRIBUTES and name not in _LISTS_OF_ADDRESSES:
        if may_be_filled(value):
            return value
        meant = meant_address(value, what, picture=name in ("src", "poster"))
        if told is not None and meant.note and meant.note not in told:
            told.append(meant.note)
        return meant.address
    if name in _NUMBERS and not re.fullmatch(r"-?\d+(?:\.\d+)?%?", value.strip()):
        near = re.match(r"\d+", value.strip())
        raise InputError(f"{what}={value}: the attribute {name} takes a number{f': {near[0]}?' if near else '.'}")
    if name in _COLOURS:
        colour = parse_colour(value)
        if colour is None:
            raise InputError(f"{what}={value}: this is no colour. Write one such as #1d4f53 or teal.")
        return value if re.fullmatch(r"#[0-9A-Fa-f]{6}|[A-Za-z]+", value) else written(colour, "hex")
    if name == "style":
        raise InputError(f"{what}: name the declaration instead, such as --set margin=8px.")
    if name in ("id", "name", "for", "class") and (not value.strip() or (name == "id" and re.search(r"\s", value))):
        raise InputError(f"{what}={value}: this is no name. Give one word.")
    return value


def new_mistakes(before: Piece, after: Piece) -> list[Finding]:
    """Return the mistakes of a piece that it did not have before it was changed, notes left out."""
    known = Counter((found.finding.rule, found.finding.message) for found in find(before))
    fresh = []
    for found in find(after):
        sign = found.finding.rule, found.finding.message
        known[sign] -= 1
        if known[sign] < 0 and found.finding.severity is not Severity.NOTE:
            fresh.append(found.finding)
    return fresh


def refuse_mistakes(before: Piece, after: Piece, what: str) -> list[Finding]:
    """Refuse a change that makes something wrong that was right, and return what else has to be told of it.

    Raises:
        InputError: with the first mistake.
    """
    fresh = new_mistakes(before, after)
    for finding in fresh:
        if finding.severity is Severity.ERROR or finding.rule in _NEVER:
            raise InputError(f"{what}: {finding.message} [{finding.rule}] Nothing was written.")
    return fresh
