"""An editor learned: probes written, what came back read, the profile and what it rests on."""

from __future__ import annotations

import re
from datetime import date
from hashlib import sha256
from pathlib import Path

from msgspec import Struct, structs

from verse_tray import __version__
from verse_tray.editors.load import read_profile
from verse_tray.editors.profile import Profile
from verse_tray.editors.store import profile_toml, record_toml
from verse_tray.learning.choose import choose
from verse_tray.learning.contradictions import contradictions
from verse_tray.learning.evidence import Evidence, asked_names, gather
from verse_tray.learning.learned import Learned, Returned, learn_from
from verse_tray.learning.probe.probe import Probe, compose
from verse_tray.learning.probe.questions import Question
from verse_tray.learning.probe.wishes import wishes_of
from verse_tray.learning.session import FILE, FORMAT, STORED, Asked, Folder, Session
from verse_tray.model.errors import InputError, OutputError
from verse_tray.model.inputs import read_file
from verse_tray.model.phrasing import counted
from verse_tray.tasks.files import read_piece
from verse_tray.tasks.outputs import keep, write_whole

EDITOR = "editor.toml"
_LEAST = 400
"""Characters that a probe needs to tell anything."""
_SHORTER = (9900, 1950, 900)
"""Sizes that are tried in turn where longer probes are refused: below limits that are common."""


class BeginRequest(Struct, frozen=True):
    """What ``learn begin`` is asked for."""

    name: str
    folder: Path
    most: int = 10_000
    visual: bool = False
    hosts: tuple[str, ...] = ()
    classes: tuple[str, ...] = ()
    like: tuple[Path, ...] = ()


class Read(Struct, frozen=True):
    """What ``learn read`` found."""

    profile: Profile
    evidence: Evidence
    changed: bool
    """Whether editor.toml was written anew."""
    kept: Path | None
    """Where the one is that somebody had worked on; None when nobody had."""
    telling: int
    """Cells that one more probe would ask."""


def begin(request: BeginRequest) -> Probe:
    """Write the first probe, and what is remembered of it.

    Raises:
        InputError: the name or the size cannot be used, or a piece cannot be read.
        OutputError: something was begun in that folder before.
    """
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,99}", request.name):
        raise InputError(f"{request.name!r}: a name has lower-case letters, digits and hyphens, such as our-blog.")
    if request.most < _LEAST:
        raise InputError(f"--most {request.most}: a probe needs at least {_LEAST} characters to tell anything.")
    if (request.folder / FILE).exists():
        raise OutputError(
            f"{request.folder}: an editor is being learned there already. Go on with verse-tray learn next "
            f"{request.folder}, or give another folder: -o FOLDER"
        )
    for name in (EDITOR, "probe-1.html", "stored-1.html"):
        if (request.folder / name).exists():
            raise OutputError(
                f"{request.folder / name}: it stands there already, and learning would write over it. Give another "
                "folder: -o FOLDER"
            )
    pieces = [read_piece(str(path)).source.text for path in request.like]
    wishes = wishes_of(pieces, request.hosts, request.classes)
    session = Session(
        format=FORMAT, version=__version__, name=request.name, most=request.most, visual=request.visual, wishes=wishes
    )
    folder = Folder(request.folder, session)
    return write_probe(folder, compose(1, choose(request.most, wishes=wishes, visual=request.visual)))


def note_refusal(path: Path, number: int) -> bool:
    """Remember that the editor refused a probe.

    Returns:
        Whether something else came back already, that can be read.

    Raises:
        InputError: there is no such probe, or something came back of it.
    """
    folder = Folder.read(path)
    write_session(path, folder.with_refused(number))
    return bool(folder.answered or folder.pairs())


def read(path: Path, pair: tuple[Path, Path] | None = None, *, visual: bool = False) -> Read:
    """Infer the profile from all that came back, and write it.

    Args:
        path: The session's folder.
        pair: A piece, and what the editor made of it: taken into the folder.
        visual: Whether the probes were pasted into a visual pane, although that was not said at the beginning.

    Raises:
        InputError: nothing came back, what did is of no use, or it contradicts itself; nothing is written then.
    """
    folder = Folder.read(path)
    if visual and not folder.session.visual:
        folder = Folder(path, structs.replace(folder.session, visual=True))
    returned, known = folder.returned(), folder.pairs()
    texts = None if pair is None else (read_piece(str(pair[0])).source.text, read_piece(str(pair[1])).source.text)
    if texts is not None and texts not in known.values():
        returned.append(Returned(texts[0], {"save": texts[1]}))
    learned = _learned(folder, returned)
    evidence = gather(learned, folder.questions, folder.session.wishes)
    profile = _profile(folder, learned, evidence.confidence)
    text = profile_toml(profile)
    target, kept = path / EDITOR, None
    before = read_file(target) if target.is_file() else b""
    changed = before != text.encode()
    if texts is not None and texts not in known.values():
        number = max(known, default=0) + 1
        write_whole(folder.pair_file(number, "sent"), texts[0].encode())
        write_whole(folder.pair_file(number, "back"), texts[1].encode())
    if changed:
        if before and sha256(before).hexdigest() != folder.session.written:
            kept = keep(target)
        write_whole(target, text.encode(), mended=True, again=True)
    session = structs.replace(folder.session, written=sha256(text.encode()).hexdigest())
    if session != Folder.read(path).session:
        write_session(path, session)
    return Read(profile, evidence, changed, kept, _new(_next(folder, learned), folder))


def next_probe(path: Path) -> Probe | str:
    """Write the next probe, where that would tell something; else return why not.

    Raises:
        InputError: what came back cannot be read.
    """
    folder = Folder.read(path)
    session = folder.session
    if (waiting := folder.waiting) is not None:
        return (
            f"probe-{waiting.number}.html is still to be pasted. Copy what comes back into "
            f"stored-{waiting.number}.html, or "
            f"tell that it was refused: verse-tray learn read {path} --refused {waiting.number}"
        )
    number, most = len(session.probes) + 1, allowed(folder)
    if not folder.answered:
        if most < _LEAST:
            return "The editor refuses even the shortest probe; nothing can be learned of it."
        return write_probe(folder, compose(number, choose(most, wishes=session.wishes, visual=session.visual)))
    learned = _learned(folder, folder.returned())
    found = _next(folder, learned)
    if _new(found, folder):
        return write_probe(folder, compose(number, found))
    if unexplained := sum(len(each.texts) for each in learned.misses.values()):
        return (
            f"More pastes will not help: everything was asked, and {counted(unexplained, 'cell')} came back in a way "
            f"that a profile cannot say. verse-tray learn show {path} shows them."
        )
    return "Everything that can be asked was asked, and all of it is explained."


def show(path: Path) -> tuple[Folder, Evidence, int]:
    """Return what an editor's profile rests on, and how many cells one more probe would ask.

    Raises:
        InputError: nothing came back yet, or what did is of no use.
    """
    folder = Folder.read(path)
    learned = _learned(folder, folder.returned())
    return folder, gather(learned, folder.questions, folder.session.wishes), _new(_next(folder, learned), folder)


def _learned(folder: Folder, returned: list[Returned]) -> Learned:
    """Return what was learned from what came back.

    Raises:
        InputError: nothing came back, or it contradicts itself.
    """
    if not returned:
        last = folder.session.probes[-1]
        names = ", ".join(f"{name}-{last.number}.html" for name in STORED.values())
        raise InputError(
            f"{folder.path}: nothing came back yet. Paste probe-{last.number}.html into the editor, save, and copy its "
            f"source into {names} (any of them)."
        )
    if found := contradictions(returned):
        first = found[0]
        raise InputError(
            f"{folder.path}: the editor answered the same in two ways ({counted(len(found), 'time')}), so its rules "
            f"changed between the probes, or hang on something else. {first.sent[:120]!r} came back as "
            f"{first.first[:120]!r} and as {first.second[:120]!r}. Paste the older probes once more, and copy back "
            "anew."
        )
    return learn_from(returned, folder.refused, visual=folder.session.visual)


def _next(folder: Folder, learned: Learned) -> list[Question]:
    """Return the cells of another probe."""
    session = folder.session
    return choose(allowed(folder), folder.questions, learned.first_facts, session.wishes, visual=session.visual)


def _new(found: list[Question], folder: Folder) -> int:
    """Return how many of these cells would be asked for the first time."""
    return sum(each.markup not in folder.questions for each in found)


def allowed(folder: Folder) -> int:
    """Return how long the next probe may be: less than what was refused."""
    if not folder.refused:
        return folder.session.most
    smallest = min(folder.refused)
    return next((each for each in _SHORTER if each < smallest), smallest // 2)


def _profile(folder: Folder, learned: Learned, confidence: int) -> Profile:
    name, asked = folder.session.name, folder.answered
    what = f"{counted(len(asked), 'probe')}, {max(each.date for each in asked)}" if asked else "other texts"
    profile = read_profile(
        {
            "title": name.replace("-", " ").capitalize(),
            "summary": f"Learned from what it made of {what}.",
            **learned.draft,
        },
        name,
    )
    return structs.replace(profile, learned=asked_names(learned, confidence))


def write_probe(folder: Folder, probe: Probe) -> Probe:
    """Write a probe, and what is remembered of it."""
    path = folder.path
    write_whole(path / f"probe-{probe.number}.html", probe.text.encode(), mended=True)
    if folder.session.visual:
        write_whole(path / f"probe-{probe.number}.page.html", _page(probe).encode(), mended=True)
    write_session(path, folder.with_probe(probe, date.today().isoformat()))
    return probe


def write_session(path: Path, session: Session) -> None:
    """Write what is remembered."""
    write_whole(path / FILE, record_toml(session, (Asked,)).encode(), mended=True, again=True)


def _page(probe: Probe) -> str:
    """Return a page that shows a probe, to be copied as rich text."""
    from markupsafe import Markup

    from verse_tray.preview.templates import render

    return render("pages/probe.html", number=probe.number, markup=Markup(probe.text))
