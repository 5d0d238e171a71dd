"""A value where it stands in a piece, and how another has to be typed there so that it stays a value."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple

from verse_tray.markup.serialise import escape_for_quote, escape_text


class Context(StrEnum):
    """What a value stands in."""

    TEXT = "text"
    ATTRIBUTE = "attribute"
    ADDRESS = "address"
    """A whole address, or its beginning."""
    SCHEME = "scheme of an address"
    HOST = "host of an address"
    PATH = "path of an address"
    ADDRESS_PART = "part of an address"
    """Behind its ``?`` or ``#``."""
    MAIL = "mail address"
    PHONE = "telephone number"
    PICTURE_ADDRESS = "address of a picture"
    """As an address; a picture may also be written into it (``data:image/``)."""
    SRCSET = "srcset"
    """One address among those of a ``srcset``."""
    STYLE = "style"
    """A declaration's value or a part of it that stands alone, in an attribute or in a style element."""
    STYLE_PART = "part of a word of a style"
    STYLE_NAME = "name in a style"
    """In a selector or in the name of a property."""
    STYLE_NAME_PART = "part of a name in a style"
    STYLE_STRING = "string of a style"
    STYLE_ADDRESS = "address in a style"
    """What stands between the brackets of ``url()``."""
    SCRIPT = "script"
    """The inside of a string of a script, or of an event handler."""
    SCRIPT_VALUE = "value in a script"
    """In a script or an event handler, where an expression stands."""
    JSON_VALUE = "value in JSON"
    CODE_COMMENT = "comment of a style or a script"
    COMMENT = "comment"
    CONDITIONAL = "comment that some programs read as markup"
    RAW = "text that knows no references"
    BARE_WORD = "tag"
    """In a tag, but in no value."""
    NAME_OF_TAG = "name of a tag"
    NOWHERE = "a place for no value"


class Quoted(NamedTuple):
    """A context, and whether it lies within an attribute's value."""

    context: Context
    """What the value stands in."""
    quote: str | None
    """The quote around the attribute's value it lies in, empty for none; None outside of attributes."""
    around: tuple[str, ...] = ()
    """What lies around that, from within: the quote of an attribute that holds a document, or ``script`` for a
    string of a script that holds markup."""
    why: str = ""
    """Why no value can stand here; only for :attr:`Context.NOWHERE`."""

    def typed(self, value: str) -> str:
        """Return a value as it is typed here: the signs that would end its text, its tag or its quote escaped.

        What the value means (a style, a script, an address) is not looked at: see
        :func:`verse_tray.piece.encoding.written`.
        """
        if self.quote is not None:
            value = escape_for_quote(value, self.quote)
        elif self.context is Context.TEXT:
            value = escape_text(value)
        elif self.context is Context.STYLE:  # the text of a style element knows no references
            value = value.replace("</", "<\\/")
        for layer in self.around:
            value = value if layer == "script" else escape_for_quote(value, layer)
        return value


class Refused(Exception):
    """A value that cannot stand somewhere; its text says why."""
