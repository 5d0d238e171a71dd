"""What was sent where and when, so that it can be changed, and held against what is there.

It stands in ``tray.sent.json`` beside the pieces; docs/sending.md describes it.
"""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct

from verse_tray.trays.memory import read_memory

FILE = "tray.sent.json"
"""The file."""
FORMAT = "verse-tray-sent/1"
_MOST_BEFORE = 3  # earlier versions that are kept


class Version(Struct, frozen=True):
    """A text that was sent."""

    text: str
    """The text."""
    date: str
    """When, as RFC 3339 has it."""


class Sent(Struct):
    """A piece that stands on a site."""

    piece: str
    """Name of the piece: its file, from the folder of the memory, or its name in the tray."""
    to: str
    """The site, as ``send --to`` names it."""
    editor: str
    """The editor that it went through."""
    address: str
    """Address of its page."""
    state: str
    """``draft`` or ``published``, or what else the site calls it."""
    now: Version
    """What was sent last."""
    written: str
    """Hash of the author's text that it was made of."""
    stored: str | None = None
    """What the site stored then; None where it did not say."""
    meant: Version | None = None
    """What is being sent in its place; None once the site has answered."""
    before: tuple[Version, ...] = ()
    """What was sent before, the latest first."""

    def follow(self, version: Version) -> None:
        """Take a new version; the last few old ones are kept."""
        if version.text != self.now.text:
            self.before = (self.now, *self.before)[:_MOST_BEFORE]
        self.now, self.meant = version, None


class Pending(Struct, frozen=True):
    """A piece that may have been sent: nobody answered yet."""

    piece: str
    to: str
    slug: str
    """What its address is to end in."""
    version: Version
    """What was sent."""
    written: str
    """Hash of the author's text that it was made of."""


class Memory(Struct):
    """All that is remembered."""

    format: str = FORMAT
    sent: list[Sent] = []
    """What stands on sites."""
    pending: list[Pending] = []
    """What may have been sent."""
    hosted: dict[str, dict[str, str]] = {}
    """Addresses of files that were uploaded, by site and by the hash of what is in them."""

    def of(self, piece: str, to: str) -> Sent | None:
        """Return what is known of a piece on a site."""
        return next((each for each in self.sent if (each.piece, each.to) == (piece, to)), None)

    def waiting(self, piece: str, to: str) -> Pending | None:
        """Return what may have been sent of a piece to a site."""
        return next((each for each in self.pending if (each.piece, each.to) == (piece, to)), None)


def load_memory(folder: Path) -> Memory:
    """Return what is remembered in a folder; nothing where there is no memory.

    Raises:
        InputError: the memory cannot be read.
    """
    return read_memory(folder / FILE, Memory, FORMAT, "Mend it; without it, nobody knows what was sent where.")
