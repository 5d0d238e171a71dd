"""A piece of an archive."""

from __future__ import annotations

import hashlib

from msgspec import Struct


class Post(Struct, frozen=True):
    """A piece of an archive, with what is known of it."""

    source: str
    """The source that it comes from, as it was named."""
    name: str
    """Its name within the source: a file, an identifier, a number."""
    markup: str
    """Its markup."""
    address: str = ""
    """Address of its page; empty where nobody says."""
    date: str = ""
    """Its date, as the source writes it; empty for none."""
    read: float = 1.0
    """How much of the source was read when it came, 0 to 1."""

    @property
    def hash(self) -> str:
        """What tells its markup from others."""
        return hashlib.sha256(self.markup.encode("utf-8", "surrogatepass")).hexdigest()[:32]
