"""Values of old attributes, as browsers read them (HTML standard, 2.3, "Common microsyntaxes")."""

from __future__ import annotations

from verse_tray.model.patterns import lazy
from verse_tray.style.colours import parse_colour

_INTEGER = lazy(r"[ \t\n\f\r]*([+-]?[0-9]{1,6})")


def integer(typed: str) -> int | None:
    """Return the number that an attribute begins with (HTML standard, "rules for parsing integers")."""
    number = _INTEGER.match(typed)
    return int(number[1]) if number else None


def legacy_size(typed: str | None) -> str:
    """Return a length or a share as CSS; empty for none."""
    if not typed:
        return ""
    typed = typed.strip()
    digits = ""
    for sign in typed[:12]:
        if not (sign.isdecimal() and sign.isascii()) and (sign != "." or "." in digits or not digits):
            break
        digits += sign
    if not digits:
        return ""
    return f"{digits}%" if typed[len(digits) :].startswith("%") else f"{digits}px"


def legacy_colour(typed: str | None) -> str:
    """Return a colour of an attribute as CSS (HTML standard, "rules for parsing a legacy color value")."""
    if not typed or typed.strip().lower() == "transparent":
        return ""
    typed = typed.strip()
    if parse_colour(typed) is not None and "(" not in typed and (typed[0] != "#" or len(typed) in (4, 7)):
        return typed
    signs = "".join(sign if sign in "0123456789abcdefABCDEF" else "0" for sign in typed.removeprefix("#")[:128]) or "0"
    signs += "0" * (-len(signs) % 3)
    third = len(signs) // 3
    parts = [signs[at : at + third][-8:] for at in (0, third, 2 * third)]
    while third > 2 and len(parts[0]) > 2 and all(part[0] == "0" for part in parts):
        parts = [part[1:] for part in parts]
    return "#" + "".join(part[:2].rjust(2, "0") for part in parts)
