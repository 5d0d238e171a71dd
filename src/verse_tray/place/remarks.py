"""What an author should know of a placement: widths, twin regions, full slots, what does not work, what it loads."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from verse_tray.checks.find import find
from verse_tray.markup.addresses import host_of
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.phrasing import listed
from verse_tray.place.page import Paste, published, region_editor
from verse_tray.place.targets import slot_of
from verse_tray.reading.frames import frame_of
from verse_tray.reading.read import DESKTOP
from verse_tray.reading.site import site_looks
from verse_tray.sites.load import LoadedSite
from verse_tray.style.sheets import parse_sheet

if TYPE_CHECKING:
    from verse_tray.place.placement import Placed


def remarks_on(site: LoadedSite, placed: Sequence[Placed], pastes: Sequence[Paste]) -> Iterator[tuple[str, Finding]]:
    """Yield what there is to tell, each with the name of the piece that it is about."""
    for one in placed:
        yield from ((one.name, each) for each in (*_mistakes(one), *_not_working(one), *_needs(one)))
    yield from _site_changed(site, placed, pastes)
    yield from _twins(placed)
    yield from _full_slots(site, pastes)


def _mistakes(placed: Placed) -> Iterator[Finding]:
    """Yield the errors in the piece itself, which may reach the page around it, and what is wider than the region."""
    region = placed.where.of_region
    for found in find(placed.piece, region=region.width):
        if found.finding.rule == "pictures/region" or found.finding.severity is Severity.ERROR:
            yield found.finding


def _not_working(placed: Placed) -> Iterator[Finding]:
    """Yield what the piece does not do any more."""
    outcome = placed.outcome
    if outcome.refused:
        text = f"{placed.where.of_region.title} takes none of it: {_first_error(placed)}"
        yield Finding("place/refused", "save", text, None, None, Severity.ERROR)
    elif outcome.doing < 1 - 1e-9:
        text = (
            f"{listed(outcome.missing)} {'do' if outcome.missing[1:] else 'does'} not work in {placed.where.name}: the "
            "field strips that, and no slot or holder of this site can take it. Use a region with a framed box, or "
            "do without."
        )
        yield Finding("place/does-less", "publish", text, None, None, Severity.WARNING)


_LOADED = {"script": ("src", "scripts"), "link": ("href", "style sheets"), "iframe": ("src", "frames")}


def _needs(placed: Placed) -> Iterator[Finding]:
    """Yield what the piece loads from elsewhere, and what code from elsewhere asks for."""
    hosts: dict[str, dict[str, None]] = {}
    for element in placed.piece.written_view.elements:
        attribute, what = _LOADED.get(element.name, ("", ""))
        host = host_of(element.attributes.get(attribute, "")) if attribute else None
        if host:
            hosts.setdefault(what, {})[host] = None
    told = [f"{what} of {listed(names)}" for what, names in hosts.items()]
    if told:
        text = f"It loads {listed(told)}: it works only as long as readers' browsers get them from there."
        yield Finding("place/loads", "publish", text, None, None, Severity.NOTE)
    if placed.as_given:
        text = "It is pasted as it was given. Your own changes go below it, in a piece that is placed after it."
        yield Finding("place/as-given", "written", text, None, None, Severity.NOTE)


def _first_error(placed: Placed) -> str:
    errors = [each.message for each in placed.outcome.findings if each.severity is Severity.ERROR]
    return errors[0] if errors else "it is over a limit. Shorten it, or choose another region."


def _site_changed(site: LoadedSite, placed: Sequence[Placed], pastes: Sequence[Paste]) -> Iterator[tuple[str, Finding]]:
    """Yield the styles in slots that change how the page around the piece looks."""
    for paste in pastes:
        if paste.kind != "styles":
            continue
        where = next(each.where for each in placed if each.name in paste.pieces)
        frame, sheet = frame_of(region_editor(where, 0)), parse_sheet(published(site, paste))
        was, now = site_looks(frame, (), DESKTOP), site_looks(frame, (sheet,), DESKTOP)
        changed = list(dict.fromkeys(frame.name_of(key) for key, look in was.items() if now.get(key) != look))
        if changed:
            slot = slot_of(site, paste.target)
            text = (
                f"In {slot.title}, its styles reach beyond the piece: {listed(changed)} of {where.name} "
                f"look{'s' if len(changed) == 1 else ''} different. Write a class of the piece's own in front of its "
                "selectors."
            )
            yield paste.pieces[0], Finding("place/site-changed", "publish", text, None, None, Severity.WARNING)


def _twins(placed: Sequence[Placed]) -> Iterator[tuple[str, Finding]]:
    """Yield the pieces that are put into one of two regions that show the same."""
    there = {(each.name, each.where.page, each.where.region) for each in placed}
    for each in placed:
        twin = each.where.of_region.twin
        if twin is not None and (each.name, each.where.page, twin) not in there:
            text = (
                f"{each.where.name} has a twin for the other kind of device, {twin}, and this piece is not put there: "
                f"readers there will not see it. Put it there too: --region {twin}, or one more place in tray.toml."
            )
            yield each.name, Finding("place/twin-missing", "publish", text, None, None, Severity.WARNING)


def _full_slots(site: LoadedSite, pastes: Sequence[Paste]) -> Iterator[tuple[str, Finding]]:
    """Yield the slots that more goes into than they take."""
    for target in dict.fromkeys(each.target for each in pastes if each.target.kind == "slot"):
        slot, own = slot_of(site, target), [each for each in pastes if each.target == target]
        size = len(slot.stands) + sum(len(each.text) for each in own)
        if slot.most is not None and size > slot.most:
            text = (
                f"{slot.title} takes {slot.most:,} characters; with what stands there, this is {size:,}. Shorten "
                f"{listed(dict.fromkeys(name for each in own for name in each.pieces))}, or clear what nobody needs."
            )
            yield own[0].pieces[0], Finding("place/slot-full", "save", text, None, None, Severity.ERROR)
