"""From bytes to text with lines, and the errors on the way."""

from __future__ import annotations

import pytest

from verse_tray.checks.find import mistakes
from verse_tray.model.decoding import LARGEST_BYTES, Source, decode
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece

GOOD = {
    "UTF-8": ("<p>é😀".encode(), "<p>é😀"),
    "UTF-8 with a mark": (b"\xef\xbb\xbf<p>\xc3\xa9", "<p>é"),
    "UTF-16 with a mark": ("<p>é".encode("utf-16"), "<p>é"),
    "big-endian UTF-16 with a mark": (b"\xfe\xff\x00<\x00p", "<p"),
    "a mark beats a declaration": (b"\xef\xbb\xbf<meta charset=latin1>\xc3\xa9", "<meta charset=latin1>é"),
    "declared": (b'<meta charset="ISO-8859-1">\xe9\x80', '<meta charset="ISO-8859-1">é€'),
    "declared the long way": (
        b'<meta http-equiv="content-type" content="text/html; charset=windows-1251">\xe9',
        '<meta http-equiv="content-type" content="text/html; charset=windows-1251">й',
    ),
    "declared UTF-16 is UTF-8": (b"<meta charset=utf-16>\xc3\xa9", "<meta charset=utf-16>é"),
}


@pytest.mark.parametrize("name", GOOD)
def test_decoding(name: str) -> None:
    data, text = GOOD[name]
    assert decode(data, "f").text == text


@pytest.mark.parametrize(
    ("data", "message"),
    [
        (b"<p>\r\n\xc3\xa9\xe9x", r"f:2:2: byte 0xe9 is not UTF-8"),
        (b"<meta charset=klingon>", r"f:1:15: the declared encoding 'klingon' is unknown"),
        (b"GIF89a\0\0", "binary file"),
        (b"x" * (LARGEST_BYTES + 1), "larger than the 4,000,000 bytes"),
    ],
)
def test_what_cannot_be_decoded(data: bytes, message: str) -> None:
    with pytest.raises(InputError, match=message):
        decode(data, "f")


def test_lines_and_columns() -> None:
    source = decode("a\tb\r\nc😀d\re\n\nf".encode(), "f")
    places = {sign: tuple(source.place(source.text.index(sign))) for sign in "abcdef"}
    assert places == {"a": (1, 1), "b": (1, 3), "c": (2, 1), "d": (2, 3), "e": (3, 1), "f": (5, 1)}


@pytest.mark.parametrize(
    ("markup", "told"),
    [
        ("<p>x</p>\n.tide td { color: red }", ["code/bare-css 2:1"]),
        ("<p>a\n  @media print { .a { top: 0; } }</p>", ["code/bare-css 2:18"]),
        ("&amp;\n p { color: red }", ["code/bare-css 2:2"]),
        ("<div>let x = 3;\nx()</div>", ["code/bare-script 1:6"]),
        ("<p>document.getElementById('a')", ["code/bare-script 1:4"]),
        ("<style>p { top: 0 }</style><script>let x = 3;</script><code>p { top: 0 }</code><pre>let x = 3;</pre>", []),
        ("<p>At the cove {bring: boots} we let x (and y) count; a function (see below) follows.</p>", []),
    ],
)
def test_code_without_its_element_is_told(markup: str, told: list[str]) -> None:
    found = mistakes(Piece(Source(markup)))
    assert [f"{finding.rule} {finding.line}:{finding.column}" for finding in found] == told
