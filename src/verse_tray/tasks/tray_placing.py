"""Placing the pieces of a tray: site by site, as far as something has changed; and what was pasted where."""

from __future__ import annotations

import hashlib
import os
from collections import Counter
from collections.abc import Iterator, Sequence
from datetime import date
from pathlib import Path

from verse_tray.model.errors import InputError
from verse_tray.model.findings import Severity
from verse_tray.model.phrasing import listed, nearest
from verse_tray.place.steps import Step
from verse_tray.tasks.tray import TrayAtWork, site_of
from verse_tray.trays.keys import version_of
from verse_tray.trays.state import Pasted, PastedKey, PasteVersion, PlacedOn, Standing

PLACED = "placed"
"""Folder of a tray that placements go to, one for each site."""


def site_key(tray: TrayAtWork, names: list[str]) -> str:
    """Return the hash of all that the placement on a site depends on."""
    return hashlib.sha256("\0".join(tray.key(name) for name in names).encode()).hexdigest()[:32]


def stale_sites(tray: TrayAtWork) -> dict[str, list[str]]:
    """Return the sites whose placement is not as it should be, each with its pieces."""
    found = {}
    for site, names in tray.sites.items():
        known = tray.state.placed.get(site)
        there = known is not None and (tray.folder / known.folder / "placement.json").is_file()
        if known is None or not there or known.key != site_key(tray, names):
            found[site] = names
    return found


def place_tray(tray: TrayAtWork) -> Iterator[tuple[str, PlacedOn]]:
    """Place the pieces of every site on which something has changed; yield each with what came of it.

    Raises:
        InputError, UnknownSiteError, SettingsError, OutputError: something cannot be used or written; what stands for
            the other sites is whole.
    """
    for site, names in stale_sites(tray).items():
        from verse_tray.tasks.place import write_placements

        placement = tray.placement(site)
        ((_, steps, folder),) = write_placements([placement], tray.folder / PLACED / site)
        found = PlacedOn(
            site_key(tray, names),
            str(folder.relative_to(tray.folder)),
            {f"{_named(tray, each.name)} in {each.where.page}:{each.where.region}": each.verdict.value
             for each in placement.placed},
            sum(each.severity is not Severity.NOTE for _, each in placement.findings),
            tuple(_versions(tray, steps)),
        )  # fmt: skip
        tray.state.placed[site] = found
        tray.save()
        yield site, found
    for site in [each for each in tray.state.placed if each not in tray.sites]:
        del tray.state.placed[site]


def _versions(tray: TrayAtWork, steps: Sequence[Step]) -> Iterator[PasteVersion]:
    """Yield the pastes; of several of the same pieces into the same field, the further ones are numbered."""
    count: Counter[tuple[str, tuple[str, ...]]] = Counter()
    for step in steps:
        key = step.paste.target.key, tuple(_named(tray, each) for each in step.paste.pieces)
        count[key] += 1
        target = key[0] if count[key] == 1 else f"{key[0]} ({count[key]})"
        yield PasteVersion(step.number, target, key[1], version_of(step.paste.text))


def _named(tray: TrayAtWork, file: str) -> str:
    """Return a piece's file as seen from the tray."""
    return Path(os.path.relpath(file, tray.folder)).as_posix()


def tick_off(tray: TrayAtWork, numbers: list[str], site: str | None) -> list[PasteVersion]:
    """Remember that pastes were pasted, and return them.

    Args:
        tray: The tray.
        numbers: Their numbers, or ``all``.
        site: The site; None where there is just one.

    Raises:
        InputError: there is no such paste, or it is of an older version than the piece.
    """
    known = tray.state.placed
    if not known:
        raise InputError("nothing was placed yet. Run: verse-tray place")
    if site is None and len(known) > 1:
        raise InputError(f"pastes of several sites have these numbers: name one with --on {listed(known, 9, 'or')}.")
    site = site_of(site) if site is not None else next(iter(known))
    if site not in known:
        near = nearest(site, known)
        raise InputError(f"--on {site}: nothing is placed there{f'; did you mean {near}?' if near else '.'}")
    if site in stale_sites(tray):
        raise InputError(
            f"{site}: something has changed since it was placed. Run verse-tray place, and paste the new one."
        )
    by_number = {str(each.number): each for each in known[site].pastes}
    wanted = list(by_number) if "all" in numbers else numbers
    for number in wanted:
        if number not in by_number:
            raise InputError(f"--done {number}: {site} has the pastes 1 to {len(by_number)}.")
    done = [by_number[number] for number in dict.fromkeys(wanted)]
    today = date.today().isoformat()
    for each in done:
        gone = site, each.target, each.pieces
        tray.state.pasted = [one for one in tray.state.pasted if (one.site, one.target, one.pieces) != gone]
        tray.state.pasted.append(Pasted(site, each.target, each.pieces, each.version, today))
    tray.save()
    return done


def standings(tray: TrayAtWork) -> list[Standing]:
    """Return what stands where: pastes of now, and what was pasted once and belongs there no more."""
    pasted: dict[PastedKey, Pasted] = tray.state.standing()
    stale = stale_sites(tray)
    found, seen = list[Standing](), set[PastedKey]()
    for site, placed in tray.state.placed.items():
        for each in placed.pastes:
            key = site, each.target, each.pieces
            seen.add(key)
            there = pasted.get(key)
            current = there is not None and there.version == each.version and site not in stale
            found.append(Standing(*key, each.number, there.date if there else "", current))
    found += [Standing(*key, None, each.date, False) for key, each in pasted.items() if key not in seen]
    return found
