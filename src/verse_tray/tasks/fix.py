"""Mending what can be mended with certainty."""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct

from verse_tray.edit.mend import Mended, mend
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.tasks.outputs import keep, may_be_mended, write_whole


class Fixed(Struct, frozen=True):
    """A piece that was mended, or could be."""

    source: Source
    """The piece."""
    mended: Mended
    """What was mended in it."""
    kept: Path | None = None
    """Where the file stands as it was; None where nothing was written to it."""

    @property
    def data(self) -> bytes:
        """The mended piece in its own encoding."""
        return self.source.encode(self.mended.text)


def fix(piece: Piece, silenced: tuple[str, ...] = (), *, write: bool = False) -> Fixed:
    """Mend a piece.

    Args:
        piece: The piece.
        silenced: Rules that are not to look.
        write: Whether its file is written; standard input has none.

    Raises:
        OutputError: the file cannot be written; it stands as it was.
    """
    source = piece.source
    fixed = Fixed(source, mend(piece, silenced=silenced, folder=Path(source.name).parent))
    if not write or source.name == "-" or not fixed.mended.mended:
        return fixed
    path = Path(source.name)
    may_be_mended(path)
    kept = keep(path)
    write_whole(path, fixed.data, mended=True)
    return Fixed(source, fixed.mended, kept)
