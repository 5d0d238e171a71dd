"""Two pieces in the same page, measured in a browser."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from verse_tray.journeys.journey import Journey
from verse_tray.preview.browser import Session
from verse_tray.preview.comparing.align import Aligned, aligned
from verse_tray.preview.comparing.differences import Difference, Side, differences
from verse_tray.preview.measuring.show import look
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.page import Side as PageSide


class Comparison(Struct, frozen=True):
    """What differs between two pieces."""

    first: Journey
    second: Journey
    side: PageSide
    """Which side of them was compared."""
    aligned: Aligned
    """Which element of the one is which of the other."""
    found: dict[int, tuple[Difference, ...]]
    """What differs, by the width of the window."""

    @property
    def same(self) -> bool:
        """Whether nothing differs that could be seen."""
        return not (self.aligned.first_only or self.aligned.second_only or any(self.found.values()))


def compare(
    session: Session,
    first: Journey,
    second: Journey,
    side: PageSide,
    theme: str,
    widths: Sequence[int],
    pictures: tuple[LocalPictures, LocalPictures],
) -> Comparison:
    """Compare two journeys through one editor.

    Args:
        session: The browser.
        first: The journey of the first piece.
        second: The journey of the second piece.
        side: ``written`` or ``published``.
        theme: The site's theme, CSS.
        widths: Widths of the windows in CSS pixels.
        pictures: Where the pictures of the two pieces are.

    Raises:
        BrowserError: the browser failed.
    """
    trees = [each.piece.parsed.tree if side == "written" else each.published for each in (first, second)]
    both = aligned(*trees)
    found = {}
    for width in widths:
        one, two = (
            Side(tree, look(session, journey, side, theme, width, local))
            for tree, journey, local in zip(trees, (first, second), pictures, strict=True)
        )
        found[width] = tuple(differences(one, two, both))
    return Comparison(first, second, side, both, found)
