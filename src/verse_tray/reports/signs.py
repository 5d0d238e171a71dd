"""Signs that would steer a terminal, or that no text can hold, as signs that one can see."""

from __future__ import annotations

import os

_VISIBLE: dict[int, int | str] = {
    **{code: 0x2400 + code for code in range(32) if chr(code) not in "\n\t"},  # the Unicode block of their pictures
    0x7F: 0x2421,
    **{0xDC00 + byte: f"\\x{byte:02x}" for byte in range(0x80, 0x100)},  # of a file's name that is no UTF-8
    **dict.fromkeys(range(0x80, 0xA0), 0xFFFD),  # controls of eight bits have none
}


def visible(text: str) -> str:
    """Return a text with the control signs in it, all but line ends and tabs, as their pictures (U+2400 and on)."""
    return text if text.isprintable() else text.translate(_VISIBLE)


def name_as_text(name: str) -> str:
    """Return a file's name as text: bytes that are no UTF-8 as ``\\\\xNN``."""
    return os.fsencode(name).decode("utf-8", "backslashreplace")
