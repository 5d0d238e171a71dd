"""Addresses, told from names of files."""

from __future__ import annotations


def is_address(text: str) -> bool:
    """Tell whether something is the address of a page, and not a file's name."""
    return text.lower().startswith(("https://", "http://"))
