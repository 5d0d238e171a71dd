"""Pieces placed on a site: which pastes, where to, in which order, and what readers get."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from pathlib import PurePath
from typing import TYPE_CHECKING, NamedTuple

from msgspec import Struct, structs

from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity, Verdict
from verse_tray.model.gc_pause import collection_paused
from verse_tray.piece.piece import Piece
from verse_tray.piece.subject import Subject
from verse_tray.place.clashes import Names
from verse_tray.place.page import Kind, Paste, predicted
from verse_tray.place.position import position_of
from verse_tray.place.remarks import remarks_on
from verse_tray.place.targets import Target, slot_of
from verse_tray.place.ways import Outcome, Part, Ways
from verse_tray.reading.read import DESKTOP
from verse_tray.script.reading import read_script
from verse_tray.sites.load import LoadedSite, Where

if TYPE_CHECKING:
    from verse_tray.fitting.table import Strategy


class Wanted(NamedTuple):
    """A piece, and where it is to stand."""

    piece: Piece
    where: Where
    position: str = ""
    """Where among what stands in the region, see :func:`verse_tray.place.position.position_of`."""
    as_given: bool = False
    """Whether it is code from elsewhere, which is pasted as it was given."""
    strategies: tuple[Strategy, ...] | None = None
    """The strategies that it may be fitted with; None for every one."""
    width: int = DESKTOP
    """The window, in CSS pixels, whose look is kept where only one can be."""


class Placed(Struct, frozen=True):
    """A piece in its place."""

    piece: Piece
    """The piece as it was written."""
    where: Where
    """The region."""
    index: int
    """Its place among what stands there, from 0 on."""
    outcome: Outcome
    """What comes of it."""
    written: Outcome
    """What would come of pasting all of it into the field as it is."""
    apart: str
    """What was put before its names, so that they clash with none on the page; empty for nothing."""
    used: tuple[str, ...] = ()
    """Strategies of fitting that were used for the field."""
    as_given: bool = False
    """Whether it is code from elsewhere, which is pasted as it was given."""

    @property
    def name(self) -> str:
        """The piece's file."""
        return self.piece.source.name

    @property
    def verdict(self) -> Verdict:
        """What readers get of it."""
        return self.outcome.verdict


class Placement(Struct, frozen=True):
    """Pieces on a site."""

    site: LoadedSite
    """The site."""
    placed: tuple[Placed, ...]
    """The pieces, in the order in which they were given."""
    pastes: tuple[Paste, ...]
    """What is to be pasted, in order."""
    findings: tuple[tuple[str, Finding], ...]
    """What the author should know, each with the piece it is about."""
    notes: tuple[str, ...]
    """What was done to the pieces beforehand, in sentences."""

    @property
    def pages(self) -> tuple[str, ...]:
        """The pages that something is pasted into."""
        return tuple(dict.fromkeys(each.where.page for each in self.placed))

    def page(self, name: str) -> str:
        """Return a page as it will be."""
        return predicted(self.site, name, self.pastes)

    @property
    def verdict(self) -> Verdict:
        """The worst of what readers get of the pieces."""
        return max((each.verdict for each in self.placed), key=lambda each: each.rank, default=Verdict.INTACT)


def place(site: LoadedSite, wanted: Sequence[Wanted]) -> Placement:
    """Place pieces on a site.

    Raises:
        UnknownSiteError: there is no such position.
    """
    with collection_paused():
        return _Placing(site).done(wanted)


class _Placing:
    def __init__(self, site: LoadedSite) -> None:
        self._site = site
        self._names: dict[str, Names] = {}
        self._order: dict[tuple[str, str], list[str]] = {}
        self._pastes: list[tuple[int, Paste]] = []
        self._slotted: dict[tuple[Target, str], int] = {}
        self._holders: set[str] = set()
        self._notes: list[str] = []

    def done(self, wanted: Sequence[Wanted]) -> Placement:
        placed = [self._place(each) for each in wanted]
        pastes = self._in_order()
        findings = tuple(remarks_on(self._site, placed, pastes))
        return Placement(self._site, tuple(placed), tuple(pastes), findings, tuple(dict.fromkeys(self._notes)))

    def _place(self, wanted: Wanted) -> Placed:
        where, name = wanted.where, wanted.piece.source.name
        key = where.page, where.region
        if key not in self._order:
            self._order[key] = [item.name for item in where.of_region.items]
        if where.page not in self._names:
            self._names[where.page] = Names(predicted(self._site, where.page, (), themed=False))
        index = position_of(where, wanted.position, self._order[key])
        stem = _stem(name)
        piece, apart, notes = self._names[where.page].apart(wanted.piece, stem, as_given=wanted.as_given)
        self._notes += notes
        ways = Ways(piece, where, index, self._holder(f"{stem}{_behind(apart)}"))
        written, best, used = _best(ways, wanted)
        self._add(best, where, index, name)
        self._order[key][index:index] = [name] * len(best.texts)
        return Placed(wanted.piece, where, index, best, written, apart, used, wanted.as_given)

    def _holder(self, stem: str) -> str:
        """Return a holder's name that no other has."""
        name, number = re.sub(r"[^a-z0-9-]+", "-", stem.lower()).strip("-") or "piece", 1
        taken = self._holders | self._known_holders
        while (found := name if number == 1 else f"{name}-{number}") in taken:
            number += 1
        return found

    @property
    def _known_holders(self) -> set[str]:
        fills = [
            self._site.editor(region.editor).profile.publish.fill
            for page in self._site.site.pages.values()
            for region in page.regions.values()
        ]
        return {name for fill in fills if fill is not None for name in (*fill.values, *fill.holders)}

    def _add(self, found: Outcome, where: Where, index: int, name: str) -> None:
        """Add the pastes of a piece; those behind it in its region move on."""
        region = Target("region", where.region, where.page)
        count = len(found.texts)
        self._pastes = [(rank, _moved(each, region, index, count)) for rank, each in self._pastes]
        first = _scripts_first(found)
        for part in found.way.parts:
            self._add_part(part, where, index, name, scripts_first=first)
        kind: Kind = "reference" if found.way.reference else "markup"
        for number, text in enumerate(found.texts):
            self._pastes.append((_RANKS["markup"], Paste(text, kind, region, (name,), index + number)))

    def _add_part(self, part: Part, where: Where, index: int, name: str, *, scripts_first: bool) -> None:
        """Add what goes elsewhere than into the field; what is there already is shared."""
        target, key = part.target, (part.target, part.text)
        if target.kind == "holder":
            self._holders.add(target.name)
        if target.kind == "slot" and not target.region:
            if part.text.strip() in slot_of(self._site, target).stands:
                self._notes.append(f"{name}: {_words(part)} stands in {slot_of(self._site, target).title} already.")
                return
            if key in self._slotted:
                at = self._slotted[key]
                rank, paste = self._pastes[at]
                self._pastes[at] = rank, structs.replace(paste, pieces=tuple(dict.fromkeys((*paste.pieces, name))))
                return
            self._slotted[key] = len(self._pastes)
        rank = _RANKS["scripts-first" if part.kind == "scripts" and scripts_first else part.kind]
        self._pastes.append((rank, Paste(part.text, part.kind, target, (name,), index if target.region else -1)))

    def _in_order(self) -> list[Paste]:
        """Return the pastes in an order in which nothing is used before it is there."""
        return [each for _, each in sorted(self._pastes, key=_order)]


_RANKS = {"libraries": 0, "styles": 1, "holder": 2, "scripts-first": 3, "markup": 4, "scripts": 5}
"""Order of the pastes by what they are."""


def _order(ranked: tuple[int, Paste]) -> tuple[int, str, str, int]:
    """Return what pastes are ordered by: those into fields by their places, others of one rank as they came."""
    rank, paste = ranked
    return (rank, paste.target.page, paste.target.name, paste.index) if rank == _RANKS["markup"] else (rank, "", "", 0)


def _best(ways: Ways, wanted: Wanted) -> tuple[Outcome, Outcome, tuple[str, ...]]:
    """Return what comes of pasting all as it is, the best that comes of any way, and what fitting did for that."""
    written = best = ways.outcome(ways.whole)
    if not written.is_perfect:
        others = [ways.outcome(way) for way in ways.apart()]
        best = max([written, *others], key=lambda each: round(each.worth, 3))  # the first of equals
    if wanted.as_given or best.is_perfect or best.way.reference:
        return written, best, ()
    from verse_tray.fitting.fit import fit  # its strategies take a while to load, and few pieces need them
    from verse_tray.fitting.table import STRATEGIES

    found, used = best, tuple[str, ...]()
    strategies = STRATEGIES if wanted.strategies is None else wanted.strategies
    for each in dict.fromkeys((best.way, written.way)):
        fitted = fit(Piece(ways.judge.trips.source.edited(each.field)), ways.editor, strategies, width=wanted.width)
        if not fitted.changed:
            continue
        made = ways.outcome(each, fitted.texts)
        if round(made.worth, 3) > round(found.worth, 3):
            found, used = made, tuple(use.name for use in fitted.used)
        if found.is_perfect:
            break
    return written, found, used


def _scripts_first(found: Outcome) -> bool:
    """Tell whether scripts have to be there before the markup: its handlers call them, and they need none of it."""
    scripts = "\n".join(each.text for each in found.way.parts if each.kind == "scripts")
    if not scripts:
        return False
    reading = read_script(re.sub(r"</?script[^>]*>", "", scripts))
    if any(each.at_once for each in reading.sought):
        return False
    subject = Subject(Piece(Source("\n".join(found.texts))))
    called = {name for _, _, each in subject.handlers for name in (*each.called, *each.used)}
    return bool(called & {*reading.declared, *reading.made})


def _moved(paste: Paste, region: Target, index: int, count: int) -> Paste:
    """Return a paste behind others that were put in before it."""
    here = paste.target == region or (paste.target.page, paste.target.region) == (region.page, region.name)
    return structs.replace(paste, index=paste.index + count) if here and paste.index >= index else paste


def _behind(apart: str) -> str:
    number = apart.rpartition("-")[2]
    return f"-{number}" if number.isdecimal() else ""


def _stem(name: str) -> str:
    return re.sub(r"\W+", "-", PurePath(name).stem if name != "-" else "piece").strip("-") or "piece"


def _words(part: Part) -> str:
    return {"libraries": "what it loads", "styles": "its style sheet"}.get(part.kind, "its code")


def worst(findings: Iterable[tuple[str, Finding]]) -> Severity | None:
    """Return the gravest severity among findings; None for none."""
    return min((finding.severity for _, finding in findings), key=lambda each: each.rank, default=None)
