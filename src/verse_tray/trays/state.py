"""What is remembered of a tray: which version of what was found to be how, and what was pasted where.

It stands in ``tray.state.json`` beside ``tray.toml``; docs/placing.md describes it. Whoever deletes it loses nothing
but that memory.
"""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from msgspec import Struct

from verse_tray.trays.memory import read_memory

FILE = "tray.state.json"
"""The file."""
FORMAT = "verse-tray-tray-state/1"


class Checked(Struct, frozen=True, omit_defaults=True):
    """What came of working on a piece."""

    key: str
    """Hash of all that it depended on."""
    verdicts: dict[str, str] = {}
    """Verdicts by the editor or place; under the empty name that of the piece itself."""
    findings: int = 0
    """How many errors and warnings there were."""


class PasteVersion(Struct, frozen=True):
    """A paste, and which version of it."""

    number: int
    """Its number in its placement."""
    target: str
    """Where it goes, such as ``region post:sidebar``."""
    pieces: tuple[str, ...]
    """Names of the pieces' files."""
    version: str
    """Hash of its text."""


class PlacedOn(Struct, frozen=True):
    """What came of placing the pieces of a site."""

    key: str
    """Hash of all that it depended on."""
    folder: str
    """Where its pastes are, below the tray."""
    verdicts: dict[str, str]
    """Verdicts by piece and place."""
    findings: int
    """How many errors and warnings there were."""
    pastes: tuple[PasteVersion, ...]
    """The pastes."""


class Pasted(Struct, frozen=True):
    """Something that was pasted, as its author said."""

    site: str
    """The site."""
    target: str
    """Where it was pasted."""
    pieces: tuple[str, ...]
    """Names of the pieces' files."""
    version: str
    """Hash of its text."""
    date: str
    """When, as ISO 8601 has it."""


PastedKey = tuple[str, str, tuple[str, ...]]
"""Site, target and pieces of something that was pasted."""


class State(Struct):
    """All that is remembered of a tray."""

    format: str = FORMAT
    checked: dict[str, Checked] = {}
    """Of ``check``, by piece."""
    fitted: dict[str, Checked] = {}
    """Of ``fit``, by piece."""
    previewed: dict[str, Checked] = {}
    """Of ``preview``, by piece."""
    placed: dict[str, PlacedOn] = {}
    """Of ``place``, by site."""
    pasted: list[Pasted] = []
    """What was pasted, in order."""

    def standing(self) -> dict[PastedKey, Pasted]:
        """Return what was pasted last, by site, target and pieces."""
        return {(each.site, each.target, each.pieces): each for each in self.pasted}


class Standing(NamedTuple):
    """A paste, and what stands in its place."""

    site: str
    target: str
    pieces: tuple[str, ...]
    number: int | None
    """Its number in the placement as it is now; None where it does not belong there any more."""
    date: str
    """When it was pasted; empty where it was not."""
    current: bool
    """Whether what stands there is the version of now."""


def load_state(folder: Path) -> State:
    """Return what is remembered of the tray of a folder; nothing where there is no memory.

    Raises:
        InputError: the memory cannot be read.
    """
    return read_memory(folder / FILE, State, FORMAT, "Mend it, or delete it: only its memory is lost.")
