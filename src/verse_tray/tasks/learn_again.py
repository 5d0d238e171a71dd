"""The same asked once more, later: which rules of an editor changed since."""

from __future__ import annotations

import shutil
from datetime import date
from pathlib import Path

from msgspec import Struct, structs

from verse_tray.editors.load import load_editor
from verse_tray.learning.choose import fitting
from verse_tray.learning.drift import Difference, differences
from verse_tray.learning.probe.probe import Probe, compose
from verse_tray.learning.session import FILE, Folder
from verse_tray.model.errors import InputError, OutputError
from verse_tray.tasks.learn import EDITOR, Read, allowed, read, write_probe


class Again(Struct, frozen=True):
    """What ``learn again`` did or found."""

    before: Path
    """Where what was known stands now."""
    probe: Probe | None = None
    """A probe that is to be pasted; None when one came back."""
    differences: tuple[Difference, ...] = ()
    """The rules that changed."""
    read: Read | None = None
    """What was learned anew."""


def again(path: Path) -> Again:
    """Ask the same again, or, where that came back, tell which rules changed since.

    Raises:
        InputError: nothing was learned yet, or what came back is of no use.
        OutputError: what was known cannot be put aside.
    """
    folder = Folder.read(path)
    if (path / EDITOR).is_file():
        return _ask(folder)
    kept = sorted((each for each in path.glob("????-??-??*") if (each / EDITOR).is_file()), key=_age)
    if not kept:
        raise InputError(
            f"{path}: nothing was learned there yet, so nothing can have changed. Read it first: verse-tray learn read "
            f"{path}"
        )
    if folder.waiting is not None:
        raise InputError(
            f"{path}: probe-{folder.waiting.number}.html is still to be pasted; copy what comes back into "
            f"stored-{folder.waiting.number}.html, and run this again."
        )
    found = read(path)
    before = kept[-1] / EDITOR
    return Again(before, None, tuple(differences(load_editor(before).profile, found.profile)), found)


def _ask(folder: Folder) -> Again:
    """Put what is known aside, and write a probe that asks it anew.

    Everything stands in the dated folder before the first file goes; the profile goes last, so that a run that was
    stopped anywhere can be repeated.
    """
    path = folder.path
    asked = {each.markup: each for known in folder.session.probes for each in folder.probe(known).questions}
    probe = compose(1, fitting(asked.values(), min(folder.session.most, allowed(folder))))
    place = _dated(path)
    old = [each for each in (path / EDITOR, path / FILE, *path.glob("*-[0-9]*.html")) if each.is_file()]
    try:
        place.mkdir()
        for each in old:
            shutil.copy2(each, place / each.name)
        for each in old:
            if each.name not in (EDITOR, FILE):
                each.unlink()
        write_probe(Folder(path, structs.replace(folder.session, probes=(), refused=folder.refused, written="")), probe)
        (path / EDITOR).unlink()
    except OSError as error:
        raise OutputError(f"{path}: what was known cannot be put aside: {error.strerror or error}.") from None
    return Again(place, probe)


def _dated(path: Path) -> Path:
    """Return a folder for what was known until today, which is not there yet."""
    day = date.today().isoformat()
    found, number = path / day, 2
    while found.exists():
        found, number = path / f"{day}-{number}", number + 1
    return found


def _age(place: Path) -> tuple[str, int]:
    """Return what sorts dated folders by their age: the day, and the number behind it."""
    day, number = place.name[:10], place.name[11:]
    return day, int(number) if number.isdigit() else 1
