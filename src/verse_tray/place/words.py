"""A placement in sentences, for the terminal and for its sheets."""

from __future__ import annotations

from verse_tray.fitting.judge import of_hundred
from verse_tray.model.phrasing import counted, listed
from verse_tray.place.placement import Placed, Placement

_WAYS = {
    "whole": "it is pasted whole",
    "styles apart": "its styles go into a slot, the rest into the field",
    "scripts apart": "its scripts go into a slot, the rest into the field",
    "both apart": "its styles and its scripts go into slots, the markup into the field",
    "code in a holder": "its code goes into a holder, which a reference behind the markup stands for",
    "all in a holder": "all of it goes into a holder, and the field has the reference that stands for it",
}


def summary(placement: Placement, count: int) -> str:
    """Return in a sentence what is placed where."""
    pages = [placement.site.site.pages[name].title for name in placement.pages]
    names = listed(dict.fromkeys(each.name for each in placement.placed))
    title = placement.site.site.title
    return f"{names} on {listed(pages)} of {title}: {counted(count, 'paste')}, in this order."


def outcome_sentence(placed: Placed) -> str:
    """Return in a sentence what becomes of a piece in its place."""
    region, outcome = placed.where.of_region, placed.outcome
    place = f"{placed.where.page}:{placed.where.region}, {region.width:,} pixels wide, place {placed.index + 1}"
    share = of_hundred(outcome.share)
    before = of_hundred(placed.written.share)
    told = f"readers get {share} of 100 of its look"
    if before < share:
        told += f" ({before} if all of it were pasted into the field as it is)"
    way = _WAYS[outcome.way.name]
    if placed.used:
        way += ", rewritten so that more of it survives (see fit)"
    if len(outcome.texts) > 1:
        way += f", in {len(outcome.texts)} pastes, as it is too large for one"
    apart = f" Its names begin with {placed.apart}-." if placed.apart else ""
    return f"{placed.name} ({place}): {told}, {outcome.verdict.value}; {way}.{apart}"
