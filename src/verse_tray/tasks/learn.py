"""An editor learned: probes written, what came back read, the profile and what it rests on."""

from __future__ import annotations

import re
import shutil
from datetime import date
from pathlib import Path
from typing import Any

import tomlkit
from msgspec import Struct, structs

from verse_tray import __version__
from verse_tray.editors.load import load_editor, read_profile
from verse_tray.editors.profile import Profile
from verse_tray.editors.store import profile_toml
from verse_tray.learning.choose import choose
from verse_tray.learning.contradictions import contradictions
from verse_tray.learning.drift import Difference, differences
from verse_tray.learning.evidence import Evidence, asked_names, gather, question_texts
from verse_tray.learning.facts.fates import Facts
from verse_tray.learning.learned import Learned, Returned, learn_from
from verse_tray.learning.probe.probe import FRAME, Probe, compose, size_of
from verse_tray.learning.probe.questions import Question, questions
from verse_tray.learning.probe.wishes import wishes_of
from verse_tray.learning.session import FILE, STORED, Folder, Session
from verse_tray.model.decoding import decode
from verse_tray.model.errors import InputError, OutputError
from verse_tray.model.inputs import read_file
from verse_tray.tasks.outputs import write_whole

EDITOR = "editor.toml"
_LEAST = 400
"""Characters that a probe needs to tell anything."""


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

    folder: Path
    profile: Profile
    evidence: Evidence
    changed: bool
    """Whether editor.toml was written anew."""
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
    pieces = [_piece(path) for path in request.like]
    wishes = wishes_of(pieces, request.hosts, request.classes)
    session = Session(version=__version__, name=request.name, most=request.most, visual=request.visual, wishes=wishes)
    folder = Folder(request.folder, session)
    return _write_probe(folder, compose(1, choose(request.most, wishes=wishes, visual=request.visual)))


def read(path: Path, pairs: tuple[tuple[Path, Path], ...] = (), refused: int = 0, *, visual: bool = False) -> Read:
    """Infer the profile from all that came back, and write it.

    Args:
        path: The session's folder.
        pairs: Pieces, and what the editor made of each: taken into the folder.
        refused: Number of a probe that the editor refused; 0 for none.
        visual: Whether the probes were pasted into a visual pane, although that was not said at the beginning.

    Raises:
        InputError: nothing came back, what did is of no use, or it contradicts itself; nothing is written then.
    """
    folder = Folder.read(path)
    if refused:
        folder = Folder(path, folder.with_refused(refused))
    if visual and not folder.session.visual:
        folder = Folder(path, structs.replace(folder.session, visual=True))
    texts = [(_piece(sent), _piece(back)) for sent, back in pairs]
    returned = folder.returned()
    returned += [Returned(sent, {"save": back}) for sent, back in texts]
    if not returned:
        if refused:
            write_whole(path / FILE, _session_toml(folder.session).encode(), mended=True, again=True)
            raise InputError(
                f"{path}: probe {refused} was refused, and nothing came back yet. A shorter one: verse-tray learn "
                f"next {path}"
            )
        raise InputError(_nothing(folder))
    _refuse_contradictions(path, returned)
    learned = learn_from(returned, folder.refused, visual=folder.session.visual)
    evidence = _evidence(folder, learned)
    profile = _profile(folder, learned)
    text = profile_toml(profile)
    target = path / EDITOR
    changed = not target.is_file() or read_file(target).decode("utf-8", "replace") != text
    number = len(folder.pairs())
    for offset, (sent, back) in enumerate(texts, 1):
        write_whole(path / f"pair-{number + offset}-sent.html", sent.encode())
        write_whole(path / f"pair-{number + offset}-back.html", back.encode())
    write_whole(path / FILE, _session_toml(folder.session).encode(), mended=True, again=True)
    if changed:
        write_whole(target, text.encode(), mended=True, again=True)
    return Read(path, profile, evidence, changed, len(_next_questions(folder, learned)))


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
    returned = folder.returned()
    most = _allowed(folder)
    number = len(session.probes) + 1
    if not returned:
        if most < _LEAST:
            return "The editor refuses even the shortest probe; nothing can be learned of it."
        return _write_probe(folder, compose(number, choose(most, wishes=session.wishes, visual=session.visual)))
    learned = learn_from(returned, folder.refused, visual=session.visual)
    found = _next_questions(folder, learned, most)
    if not found:
        unexplained = sum(len(each.texts) for each in learned.misses.values())
        if unexplained:
            return (
                f"More pastes will not help: everything was asked, and {unexplained} cells came back in a way that a "
                f"profile cannot say. verse-tray learn show {path} shows them."
            )
        return "Everything that can be asked was asked, and all of it is explained."
    again = choose(most, folder.questions(), _facts(learned), session.wishes, visual=session.visual)
    return _write_probe(folder, compose(number, again))


def show(path: Path) -> tuple[Folder, Evidence, int]:
    """Return what an editor's profile rests on, and how many cells one more probe would ask.

    Raises:
        InputError: nothing came back yet, or what did is of no use.
    """
    folder = Folder.read(path)
    returned = folder.returned()
    if not returned:
        raise InputError(_nothing(folder))
    learned = learn_from(returned, folder.refused, visual=folder.session.visual)
    return folder, _evidence(folder, learned), len(_next_questions(folder, learned))


class Again(Struct, frozen=True):
    """What ``learn again`` did or found."""

    probe: Probe | None
    """A probe that is to be pasted; None when one came back."""
    before: Path | None
    """Where the profile is that was held against the new one."""
    differences: tuple[Difference, ...] = ()
    read: Read | None = None


def again(path: Path) -> Again:
    """Ask the same again, or, where that came back, tell which rules changed since.

    Raises:
        InputError: nothing was learned yet, or what came back is of no use.
    """
    folder = Folder.read(path)
    kept = sorted(each for each in path.glob("????-??-??*") if (each / EDITOR).is_file())
    if (path / EDITOR).is_file():
        place = _dated(path)
        moved = [EDITOR, FILE, *(each.name for each in path.glob("*-[0-9]*.html"))]
        place.mkdir()
        for name in moved:
            if (path / name).is_file():
                shutil.copy2(path / name, place / name)
        asked = [question for each in folder.session.probes for question in folder.probe(each).questions]
        probe = compose(1, list({each.markup: each for each in asked}.values())[:_MOST_AGAIN])
        probe = _fitting(probe, min(folder.session.most, _allowed(folder)))
        for name in moved:
            (path / name).unlink(missing_ok=True)
        _write_probe(Folder(path, structs.replace(folder.session, probes=(), refused=folder.refused)), probe)
        return Again(probe, place)
    if not kept:
        raise InputError(f"{path}: nothing was learned there yet, so nothing can have changed. Read it first.")
    if folder.waiting is not None:
        raise InputError(
            f"{path}: probe-{folder.waiting.number}.html is still to be pasted; copy what comes back into "
            f"stored-{folder.waiting.number}.html, and run this again."
        )
    found = read(path)
    old = load_editor(kept[-1] / EDITOR).profile
    return Again(None, kept[-1] / EDITOR, tuple(differences(old, found.profile)), found)


_MOST_AGAIN = 900


def _fitting(probe: Probe, most: int) -> Probe:
    """Return as much of a probe as may be pasted at once."""
    room, kept = most - FRAME, []
    for each in probe.questions:
        if size_of(each) <= room:
            room -= size_of(each)
            kept.append(each)
    return compose(probe.number, kept)


def _dated(path: Path) -> Path:
    """Return a folder for what was known until today, which is not there yet."""
    day = date.today().isoformat()
    found = path / day
    number = 2
    while found.exists():
        found = path / f"{day}-{number}"
        number += 1
    return found


def _piece(path: Path) -> str:
    try:
        return decode(read_file(path), str(path)).text
    except OSError as error:
        raise InputError(f"{path}: it cannot be read: {error.strerror or error}.") from None


def _nothing(folder: Folder) -> str:
    last = folder.session.probes[-1]
    names = ", ".join(f"{name}-{last.number}.html" for name in STORED.values())
    return (
        f"{folder.path}: nothing came back yet. Paste probe-{last.number}.html into the editor, save, and copy "
        "its source "
        f"into {names} (any of them)."
    )


def _refuse_contradictions(path: Path, returned: list[Returned]) -> None:
    found = contradictions(returned)
    if found:
        first = found[0]
        raise InputError(
            f"{path}: the editor answered the same in two ways ({len(found)} times), so its rules changed between the "
            f"probes or hang on something else. At {first.stage}, {first.sent[:120]!r} came back as "
            f"{first.first[:120]!r} "
            f"and as {first.second[:120]!r}. Take what is outdated away, or begin anew: verse-tray learn again {path}"
        )


def _facts(learned: Learned) -> Facts | None:
    return next(iter(learned.facts.values()), None)


def _next_questions(folder: Folder, learned: Learned, most: int = 0) -> list[Question]:
    """Return the cells that another probe would ask for the first time."""
    session, asked = folder.session, folder.questions()
    found = choose(most or _allowed(folder), asked, _facts(learned), session.wishes, visual=session.visual)
    return [each for each in found if each.markup not in asked]


def _allowed(folder: Folder) -> int:
    """Return how long the next probe may be: less than what was refused."""
    session, refused = folder.session, folder.refused
    if not refused:
        return session.most
    smallest = min(refused)
    return 9900 if smallest > 9900 else 1950 if smallest > 1950 else 900 if smallest > 900 else smallest // 2


def _evidence(folder: Folder, learned: Learned) -> Evidence:
    asks = question_texts(questions(folder.session.wishes))
    for asked in folder.session.probes:
        asks.update((each.markup, each.asks) for each in folder.probe(asked).questions)
    return gather(learned, asks, folder.questions(), folder.session.wishes)


def _profile(folder: Folder, learned: Learned) -> Profile:
    name = folder.session.name
    title = name.replace("-", " ").capitalize()
    count = max(1, sum(bool(folder.back(each)) for each in folder.session.probes))
    known = structs.asdict(asked_names(learned))
    data = {
        "title": title,
        "summary": f"Learned from what it made of {count} probe{'s' if count > 1 else ''}, {date.today().isoformat()}.",
        "learned": {key: list(value) if isinstance(value, tuple) else value for key, value in known.items()},
        **learned.draft,
    }
    return read_profile(data, name)


def _write_probe(folder: Folder, probe: Probe) -> Probe:
    path = folder.path
    write_whole(path / f"probe-{probe.number}.html", probe.text.encode())
    if folder.session.visual:
        write_whole(path / f"probe-{probe.number}.page.html", _page(probe).encode(), mended=True)
    session = folder.with_probe(probe, date.today().isoformat())
    write_whole(path / FILE, _session_toml(session).encode(), mended=True, again=True)
    return probe


def _page(probe: Probe) -> str:
    """Return a page that shows a probe, to be copied as rich text."""
    from markupsafe import Markup

    from verse_tray.preview.templates import render

    return render("pages/probe.html", number=probe.number, markup=Markup(probe.text))


def _session_toml(session: Session) -> str:
    document = tomlkit.document()
    for key in ("format", "version", "name", "most", "visual"):
        document.add(key, getattr(session, key))
    if session.refused:
        document.add("refused", list(session.refused))
    wishes = {key: value for key, value in structs.asdict(session.wishes).items() if value}
    if wishes:
        document.add("wishes", tomlkit.item({key: _plain(value) for key, value in wishes.items()}))
    probes = tomlkit.aot()
    for each in session.probes:
        probes.append(tomlkit.item({key: _plain(value) for key, value in structs.asdict(each).items()}))
    document.add("probes", probes)
    return tomlkit.dumps(document)


def _plain(value: Any) -> Any:
    return [_plain(each) for each in value] if isinstance(value, tuple) else value
