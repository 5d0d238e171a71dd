"""Rules that match a piece in its page: those of the piece are matched once, those of the site's theme in each page."""

from __future__ import annotations

import re
from functools import lru_cache

from verse_tray.model.patterns import lazy
from verse_tray.reading.frames import Frame, FramedPiece
from verse_tray.style.cascade import Hit, Match, Matched, match
from verse_tray.style.names import names_in
from verse_tray.style.sheets import split_selectors

_COMBINATOR = lazy(r"[\s>+~]")
_OF_OTHERS = lazy(r":(?:is|where|not|has)\(|:root|:scope|^(?:html|body)(?![\w-])", re.IGNORECASE)
_BEFORE = 1_000_000  # rules of the site stand before those of the piece


def match_framed(page: FramedPiece) -> tuple[Matched, bool]:
    """Return the rules that match each element of a page, and whether some were left out for their cost.

    What the piece's own rules match in the piece is taken from the piece alone, unless a selector may be about what is
    around it as well, or there are cascade layers, which compete across sheets.
    """
    frame, piece = page.frame, page.piece
    apart = all(
        _stays_within(rule.selectors, frame) for sheet in piece.sheets for rule in sheet.rules if rule.declarations
    )
    if not apart or any(sheet.layers for sheet in page.sheets):
        whole = match(page.tree, page.tree.elements(), page.sheets)
        return whole.matched, whole.bounded
    own = piece.cascade
    if frame.ways.is_enough:
        themed = Match(frame.ways.match(page.tree))
    else:
        themed = match(page.tree, page.tree.elements(), frame.sheets)
    found: Matched = dict(themed.matched)
    joined: dict[tuple[int, int], tuple[Hit, ...]] = {}
    for key, mine in own.matched.items():
        theirs = found.get(key)
        if theirs is None:
            found[key] = mine
            continue
        sign = id(theirs), id(mine)
        if sign not in joined:
            joined[sign] = _joined(theirs, mine)
        found[key] = joined[sign]
    if piece.sheets:  # and what the piece does to the page around it
        around = match(frame.tree, frame.tree.elements(), page.sheets)
        found.update(around.matched)
    return found, themed.bounded or own.bounded


def _joined(theirs: tuple[Hit, ...], mine: tuple[Hit, ...]) -> tuple[Hit, ...]:
    hits = [*(hit._replace(order=hit.order - _BEFORE) for hit in theirs), *mine]
    return tuple(sorted(hits, key=lambda hit: hit[:3]))


@lru_cache(maxsize=4096)
def _stays_within(selectors: str, frame: Frame) -> bool:
    """Tell whether selectors match in a piece what they match there when the page is around it."""
    for selector in split_selectors(selectors):
        bare = selector.strip()
        if _OF_OTHERS.search(bare):
            return False
        first = _COMBINATOR.split(bare, maxsplit=1)
        if len(first) > 1 and not any(name.name not in frame.names for name in names_in(first[0])):
            return False
    return True
