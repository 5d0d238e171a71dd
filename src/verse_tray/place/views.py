"""Placed pieces, made ready to be looked at: each in the page of the site, with everything around it."""

from __future__ import annotations

from typing import NamedTuple

from msgspec import structs

from verse_tray.editors.load import Editor
from verse_tray.journeys.journey import Journey, journey
from verse_tray.piece.piece import Piece
from verse_tray.place.page import Paste, holders_of, region_editor
from verse_tray.place.placement import Placed, Placement
from verse_tray.place.targets import Target
from verse_tray.sites.load import Where


class PlacedView(NamedTuple):
    """A piece in its place."""

    whole: Journey
    """What would become of it if all of it were pasted into the field as it is."""
    placed: Journey
    """What becomes of what is pasted into the field; the rest of the page, and of the piece, stands around it."""
    share: float
    """How much of the piece as written readers get, 0 to 1."""


def views_of(placement: Placement) -> list[PlacedView]:
    """Return the views of the pieces of a placement, in their order."""
    return [_view(placement, each) for each in placement.placed]


def _view(placement: Placement, placed: Placed) -> PlacedView:
    where, texts = placed.where, placed.outcome.texts
    target, last = Target("region", where.region, where.page), placed.index + len(texts)
    around: list[Paste] = []
    for paste in placement.pastes:
        here = paste.target == target
        if here and placed.index <= paste.index < last:
            continue
        moved = here and paste.index >= last  # the pastes of the piece are one mark
        around.append(structs.replace(paste, index=paste.index - len(texts) + 1) if moved else paste)
    others = [each for each in around if placed.name not in each.pieces]
    holders = holders_of(placement.site, placement.pastes)
    whole = called(region_editor(where, placed.index, others), where)
    editor = called(region_editor(where, placed.index, around, holders), where)
    text = texts[0] if len(texts) == 1 else "\n".join(texts)
    piece = Piece(placed.piece.source.edited(text))
    return PlacedView(journey(placed.piece, whole), journey(piece, editor), placed.outcome.share)


def called(editor: Editor, where: Where) -> Editor:
    """Return an editor that is called by the region."""
    profile = structs.replace(editor.profile, title=f"{where.of_page.title}: {where.of_region.title}")
    return editor.with_(name=where.name, profile=profile)
