"""A value, written so that it stays a value where it stands."""

from __future__ import annotations

import re
from urllib.parse import quote

from verse_tray.fields.marks import Context, Mark
from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import escape_for_quote, escape_text
from verse_tray.model.patterns import lazy

_PLAIN_STYLE = lazy(r"[\w#%.,+*/ -]*(?:\([\w#%.,+*/ -]*\)[\w#%.,+*/ -]*)*")
_SAFE_IN_ADDRESS = "!$&'()*+,;=:/?#[]@%~-._"
_RUNNING_SCHEMES = ("javascript", "vbscript", "data")


class Refused(Exception):
    """A value that cannot stand where the mark does; its text says why."""


def written(value: str, mark: Mark) -> str:
    """Return a value as it has to be typed in place of a mark.

    Raises:
        Refused: no way of writing it keeps it a value there.
    """
    if mark.context is Context.TEXT:
        return escape_text(value)
    if mark.context is Context.STYLE:
        value = _in_style(value)
    elif mark.context is Context.SCRIPT:
        value = _in_script(value)
    elif mark.context is Context.WHOLE_ADDRESS:
        if scheme_of(value) in _RUNNING_SCHEMES:
            raise Refused(f"an address that begins with {scheme_of(value)}: would run code")
        value = quote(value.strip(), safe=_SAFE_IN_ADDRESS)
    elif mark.context is Context.ADDRESS_PART:
        value = quote(value, safe="-._~")
    elif mark.context is Context.COMMENT:
        return value.replace("--", "- -").replace(">", "&gt;")
    elif mark.context is Context.TAG:
        if re.search(r"[<>\"'=`\s/]", value):
            raise Refused("inside a tag, outside every value, only a plain word can stand")
        return value
    return escape_for_quote(value, mark.quote) if mark.in_value else value


def _in_style(value: str) -> str:
    if _PLAIN_STYLE.fullmatch(value) and "expression" not in value.lower() and "url" not in value.lower():
        return value
    if re.search(r"[{};<>\\]|/\*|\burl\s*\(|expression", value, re.IGNORECASE):
        raise Refused("in a style only a colour, a size, a word or an address without brackets can stand")
    return re.sub(r"[\"'\n\r\f()]", lambda sign: f"\\{ord(sign[0]):x} ", value)


def _in_script(value: str) -> str:
    """Escape for the inside of a JavaScript string, whatever its quotes (ECMAScript, 12.9.4)."""
    return re.sub(r"[\\\"'`<>&$\n\r\u2028\u2029]", lambda sign: f"\\u{ord(sign[0]):04x}", value)
