"""Reading an author's file: bytes to text, with places."""

from __future__ import annotations

import codecs
import re
from functools import cached_property

import webencodings

from verse_tray.model.errors import InputError
from verse_tray.model.spans import LineIndex, Position, Span

LARGEST_BYTES = 4_000_000
"""Largest piece that is read, in bytes. No editor takes more, and an answer would take minutes."""

LARGEST_DATA_BYTES = 40_000_000
"""Largest file of other text (records, parts of a piece) that is read, in bytes."""

_BOMS = (
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)
# HTML standard 13.2.3.2, "prescan a byte stream to determine its encoding": the first 1024 bytes count.
_DECLARED = re.compile(rb"<meta[^>]{0,300}?charset\s*=\s*[\"']?\s*([A-Za-z0-9_.:\-]+)", re.IGNORECASE)


RECORD = ", record "
"""What stands, in a name, between a piece's and the record that filled it."""


class Source:
    """A text of the author's with its name and its lines."""

    __slots__ = ("__dict__", "encoding", "mark", "name", "text")

    def __init__(self, text: str, name: str = "-", encoding: str = "utf-8", byte_order_mark: bytes = b"") -> None:
        self.text = text
        """The text as decoded; line ends as they stand, a byte order mark left out."""
        self.name = name
        """The file's name as the user gave it; ``-`` for standard input."""
        self.encoding = encoding
        """Encoding of the file, by its name in Python."""
        self.byte_order_mark = byte_order_mark
        """The byte order mark that the file begins with."""

    def encode(self, text: str) -> bytes:
        """Return an edited text as bytes of the same encoding; signs that it lacks become numeric references."""
        try:
            return self.byte_order_mark + text.encode(self.encoding)
        except UnicodeEncodeError:
            handler = "surrogatepass" if self.encoding.startswith("utf") else "xmlcharrefreplace"
            return self.byte_order_mark + text.encode(self.encoding, handler)

    def edited(self, text: str, name: str | None = None) -> Source:
        """Return the same file with another text, and another name where one is given."""
        return Source(text, self.name if name is None else name, self.encoding, self.byte_order_mark)

    @cached_property
    def lines(self) -> LineIndex:
        """Lines of the text."""
        return LineIndex(self.text)

    def place(self, offset: int) -> Position:
        """Return line and column of an offset (0-based)."""
        return self.lines.place(offset)

    def slice(self, span: Span) -> str:
        """Return what stands at ``span``."""
        return self.text[span.start : span.end]


def page_text(data: bytes, charset: str = "") -> str:
    """Decode a page as browsers do: what cannot be decoded is replaced.

    A byte order mark wins, then the charset of its header, then an encoding declared in it, then UTF-8.

    Args:
        data: The page.
        charset: The charset that the header ``Content-Type`` names; empty for none.
    """
    for mark, encoding in _BOMS:
        if data.startswith(mark):
            return data[len(mark) :].decode(encoding, "replace")
    known = webencodings.lookup(charset)
    try:
        return data.decode(known.codec_info.name if known else _declared_encoding(data, ""), "replace")
    except InputError:  # an encoding that nobody knows
        return data.decode("utf-8", "replace")


def decode(data: bytes, name: str, *, markup: bool = True) -> Source:
    """Decode a file's bytes as browsers do, except that nothing is guessed and nothing replaced.

    A byte order mark wins, then, in ``markup``, an encoding declared in the first 1,024 bytes, then UTF-8.

    Raises:
        InputError: too large, binary, undecodable (with line and column of the first bad byte).
    """
    if len(data) > (LARGEST_BYTES if markup else LARGEST_DATA_BYTES):
        raise InputError(
            f"{name}: larger than the {LARGEST_BYTES if markup else LARGEST_DATA_BYTES:,} bytes that are read at most. "
            + ("No editor takes a piece of that size: give the part that you want to paste." if markup else "Split it.")
        )
    marked = next(((mark, encoding) for mark, encoding in _BOMS if data.startswith(mark)), None)
    if marked:
        mark, encoding = marked
        data = data[len(mark) :]
    else:
        mark, encoding = b"", _declared_encoding(data, name) if markup else "utf-8"
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError as error:
        place = LineIndex(before := data[: error.start].decode(encoding, "replace")).place(len(before))
        raise InputError(
            f"{name}:{place.line}:{place.column}: byte 0x{data[error.start]:02x} is not {encoding.upper()}. Save the "
            f"file as UTF-8{', or declare its encoding with <meta charset>' if markup else ''}."
        ) from None
    if "\0" in text[:8192]:
        raise InputError(
            f"{name}: this is a binary file, not {'markup. Give a file of HTML text' if markup else 'text'}."
        )
    return Source(text, name, encoding, mark)


def _declared_encoding(data: bytes, name: str) -> str:
    declared = _DECLARED.search(data, 0, 1024)
    if declared is None:
        return "utf-8"
    label = declared.group(1).decode("ascii").lower()
    if label.startswith("utf-16"):  # the standard reads a declared UTF-16 as UTF-8: the tag itself was readable
        return "utf-8"
    known = webencodings.lookup(label)
    if known is None:
        place = LineIndex(before := data[: declared.start(1)].decode("ascii", "replace")).place(len(before))
        raise InputError(
            f"{name}:{place.line}:{place.column}: the declared encoding {label!r} is unknown. Save the file as UTF-8 "
            "and declare that."
        )
    return str(known.codec_info.name)
