"""What an editor makes of a piece of an archive, as it is kept."""

from __future__ import annotations

import hashlib
import time
from collections.abc import Iterator
from typing import TYPE_CHECKING

from msgspec import Struct

from verse_tray import __version__
from verse_tray.model.findings import Severity

if TYPE_CHECKING:  # who asks a store what it holds needs none of this
    from verse_tray.editors.load import Editor
    from verse_tray.journeys.journey import Journey
    from verse_tray.piece.piece import Piece

_SUMS_UP = frozenset(("readers/looks-different",))  # what others are the cause of
SET_ASIDE = "set-aside"
"""The verdict of a piece that took too long, or too much memory."""


class Cause(Struct, frozen=True):
    """A rule that hurts a piece."""

    rule: str
    """Its name."""
    count: int
    """In how many places."""
    harm: int
    """How many differences that readers see are charged to it; for an error or a warning that is charged none, one."""
    line: int | None
    """Line of the first place, 1-based; None for none."""
    column: int | None
    """Column of it, 1-based."""
    message: str
    """What it says there."""


class Fit(Struct, frozen=True):
    """A piece as it was rewritten for an editor."""

    texts: tuple[str, ...]
    """What is to be pasted, in order."""
    lines: tuple[str, ...]
    """What was done, and what is still lost."""
    before: int
    """How much readers get of it as it was written, of 100."""
    after: int
    """How much they get of it now."""
    changed: bool
    """Whether anything was done at all."""


class Judged(Struct, frozen=True):
    """What an editor makes of a piece."""

    editor: str
    """The editor."""
    key: str
    """What all of it depends on: the editor's description, and the version of the program."""
    verdict: str
    """One of the verdicts, or ``set-aside``."""
    alike: int = 0
    """How much alike what readers get is, 0 to 100."""
    text_kept: int = 0
    """Characters of text that are still shown."""
    text_of: int = 0
    """Characters of text that there were."""
    stored: int = 0
    """Characters of what is stored."""
    limit: str = ""
    """The limit that is nearest to being used up; empty where there is none."""
    full: float = 0.0
    """How much of it is used: 1 is all."""
    seconds: float = 0.0
    """How long it took."""
    why: str = ""
    """Why it was set aside."""
    causes: tuple[Cause, ...] = ()
    """What hurts it, the worst first."""
    fit: Fit | None = None
    """The piece as it was rewritten, where that was asked; the verdict is then what comes of that."""


def key_of(editor: Editor) -> str:
    """Return what answers of an editor depend on."""
    from verse_tray.editors.store import profile_toml

    said = "\0".join((__version__, profile_toml(editor.profile), editor.frame, editor.theme))
    return hashlib.sha256(said.encode("utf-8", "surrogatepass")).hexdigest()[:16]


def judged(piece: Piece, editor: Editor, key: str) -> Judged:
    """Send a piece, read once for all editors, through one of them, and return what is kept of that."""
    from verse_tray.journeys.journey import journey

    begun = time.perf_counter()
    went = journey(piece, editor)
    survived = went.survival
    nearest = max(went.limits, key=lambda use: use.used / max(1, use.most), default=None)
    return Judged(
        editor.name,
        key,
        went.verdict.value,
        survived.alike,
        survived.text.kept,
        survived.text.of,
        len(went.stage("save").markup),
        "" if nearest is None else f"{nearest.unit} of {nearest.of}, at most {nearest.most:,}",
        0.0 if nearest is None else nearest.used / max(1, nearest.most),
        time.perf_counter() - begun,
        causes=tuple(_causes(went)),
    )


def _causes(went: Journey) -> Iterator[Cause]:
    """Yield the rules that hurt a piece, the worst first."""
    found: dict[str, Cause] = {}
    for each in went.hurting:
        harm = each.cost or (each.severity is not Severity.NOTE)
        if not harm or each.rule in _SUMS_UP:
            continue
        known = found.get(each.rule)
        if known is None:
            found[each.rule] = Cause(each.rule, 1, int(harm), each.line, each.column, each.message)
        else:
            found[each.rule] = Cause(
                each.rule, known.count + 1, known.harm + int(harm), known.line, known.column, known.message
            )
    yield from sorted(found.values(), key=lambda cause: -cause.harm)
