"""Text for XML 1.0."""

from __future__ import annotations


def xml_text(text: str) -> str:
    """Return a text in which signs that XML 1.0 has no way to write are replaced."""
    return "".join(
        sign
        if sign in "\t\n\r" or ("\x20" <= sign <= "\ud7ff") or ("\ue000" <= sign <= "\ufffd") or sign > "\uffff"
        else "\ufffd"
        for sign in text
    )
