"""A value where it stands in a piece, and how another has to be typed there so that it stays a value."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import NamedTuple
from urllib.parse import quote

from verse_tray.markup.addresses import scheme_of
from verse_tray.markup.serialise import escape_for_quote, escape_text
from verse_tray.model.patterns import lazy

_PLAIN_STYLE = lazy(r"[\w#%.,+*/ -]*(?:\([\w#%.,+*/ -]*\)[\w#%.,+*/ -]*)*")
_SAFE_IN_ADDRESS = "!$&'()*+,;=:/?#[]@%~-._"
_RUNNING_SCHEMES = ("javascript", "vbscript", "data")


class Context(StrEnum):
    """What a value stands in."""

    TEXT = "text"
    ATTRIBUTE = "attribute"
    ADDRESS = "address"
    """A whole address, or its beginning."""
    ADDRESS_PART = "part of an address"
    SRCSET = "srcset"
    """One address among those of a ``srcset``."""
    STYLE = "style"
    """A declaration's value, in an attribute or in a style element."""
    STYLE_ADDRESS = "address in a style"
    """What stands between the brackets of ``url()``."""
    SCRIPT = "script"
    """The inside of a string of a script, or of an event handler."""
    COMMENT = "comment"
    TAG = "tag"
    """In a tag, but in no value."""


class Quoted(NamedTuple):
    """A context, and whether it lies within an attribute's value."""

    context: Context
    """What the value stands in."""
    quote: str | None
    """The quote around the attribute's value it lies in, empty for none; None outside of attributes."""

    def typed(self, value: str) -> str:
        """Return a value as it is typed here: the signs that would end its text, its tag or its quote escaped.

        What the value means (a style, a script, an address) is not looked at: see :func:`encoded`.
        """
        if self.quote is not None:
            return escape_for_quote(value, self.quote)
        if self.context is Context.TEXT:
            return escape_text(value)
        if self.context is Context.STYLE:  # the text of a style element knows no references
            return value.replace("</", "<\\/")
        return value

    def written(self, value: str) -> str:
        """Return any value as it is typed here, encoded so that it keeps to its context.

        Raises:
            Refused: no way of writing it keeps it a value here.
        """
        return self.typed(encoded(value, self.context))


class Refused(Exception):
    """A value that cannot stand somewhere; its text says why."""


def encoded(value: str, context: Context) -> str:
    """Return a value so that it means itself in a context: no other address, no other declaration, no code.

    Raises:
        Refused: no way of writing it keeps it a value there.
    """
    if context is Context.STYLE:
        return _in_style(value)
    if context is Context.STYLE_ADDRESS:
        return re.sub(r"[()'\"\s\\<>]", lambda sign: f"%{ord(sign[0]):02X}", value)
    if context is Context.SCRIPT:
        return _in_script(value)
    if context is Context.ADDRESS:
        if scheme_of(value) in _RUNNING_SCHEMES:
            raise Refused(f"an address that begins with {scheme_of(value)}: would run code")
        return quote(value.strip(), safe=_SAFE_IN_ADDRESS)
    if context is Context.ADDRESS_PART:
        return quote(value, safe="-._~")
    if context is Context.SRCSET:
        return value.replace(",", "%2C")
    if context is Context.COMMENT:
        return value.replace("--", "- -").replace(">", "&gt;")
    if context is Context.TAG and re.search(r"[<>\"'=`\s/]", value):
        raise Refused("inside a tag, outside every value, only a plain word can stand")
    return value


def _in_style(value: str) -> str:
    if _PLAIN_STYLE.fullmatch(value) and "expression" not in value.lower() and "url" not in value.lower():
        return value
    if re.search(r"[{};<>\\]|/\*|\burl\s*\(|expression", value, re.IGNORECASE):
        raise Refused("in a style only a colour, a size, a word or an address without brackets can stand")
    return re.sub(r"[\"'\n\r\f()]", lambda sign: f"\\{ord(sign[0]):x} ", value)


def _in_script(value: str) -> str:
    """Escape for the inside of a JavaScript string, whatever its quotes (ECMAScript, 12.9.4)."""
    return re.sub(r"[\\\"'`<>&$\n\r\u2028\u2029]", lambda sign: f"\\u{ord(sign[0]):04x}", value)
