"""A folder in which an editor is learned: what was asked, what came back, and what is remembered of it."""

from functools import cached_property
from pathlib import Path
from typing import Literal, Self

from msgspec import structs

from verse_tray.config.settings import read_settings
from verse_tray.editors.record import Name, Positive, Record
from verse_tray.learning.learned import Returned
from verse_tray.learning.probe.probe import Probe, cut, token_in
from verse_tray.learning.probe.questions import Question
from verse_tray.learning.probe.wishes import Wishes
from verse_tray.learning.returned import recognise
from verse_tray.model.decoding import decode
from verse_tray.model.errors import InputError
from verse_tray.model.inputs import read_file

FORMAT: Literal["verse-tray-session/1"] = "verse-tray-session/1"
FILE = "session.toml"
STORED = {"save": "stored", "reopen": "reopened", "publish": "published"}
"""Names of files by the stage that they came back from."""


class Asked(Record, frozen=True, kw_only=True):
    """One probe."""

    number: Positive
    """1 for the first."""
    date: Name
    """Day on which it was written, as in ISO 8601."""
    token: Name
    """What stands in its first line."""
    characters: Positive
    """How long it is."""
    refused: bool = False
    """Whether the editor refused it."""
    cells: tuple[str, ...]
    """What each of its cells asks about, in order."""


class Session(Record, frozen=True, kw_only=True):
    """What is remembered."""

    format: Literal["verse-tray-session/1"]
    """Version of this format."""
    version: Name
    """Version of the program that began it."""
    name: Name
    """Name of the editor."""
    most: Positive
    """Characters that a probe may have."""
    visual: bool = False
    """Whether probes are pasted into a visual pane."""
    wishes: Wishes = Wishes()
    """What the author's own pieces put into the probes."""
    refused: tuple[Positive, ...] = ()
    """Characters of probes that were refused before the same was asked again."""
    written: str = ""
    """SHA-256 of the profile as it was written last: another one was worked on by somebody."""
    probes: tuple[Asked, ...] = ()
    """The probes so far."""


class Folder:
    """A session with its files."""

    def __init__(self, path: Path, session: Session) -> None:
        self.path = path
        self.session = session

    @classmethod
    def read(cls, path: Path) -> Self:
        """Read a folder.

        Raises:
            InputError: there is no session in it.
            SettingsError: its session cannot be used.
        """
        if not (path / FILE).is_file():
            raise InputError(
                f"{path}: there is no {FILE} in it, so nothing was begun there. Begin with: verse-tray learn begin NAME"
            )
        return cls(path, read_settings(path / FILE, Session, "session")[0])

    def probe(self, asked: Asked) -> Probe:
        """Read a probe again.

        Raises:
            InputError: its file is missing, or is not what was written.
        """
        path = self.path / f"probe-{asked.number}.html"
        text = self._text(path)
        if token_in(text) != asked.token or len(text) != asked.characters:
            raise InputError(
                f"{path}: it is not the probe that was written, so what came back of that cannot be read. Put the "
                "probe back as it was, or begin anew elsewhere: verse-tray learn begin NAME -o FOLDER"
            )
        cells = cut(text)
        questions = [
            Question(asks, cells[number].strip(" ")) for number, asks in enumerate(asked.cells) if number in cells
        ]
        return Probe(asked.number, text, tuple(questions))

    def back(self, asked: Asked) -> dict[str, Path]:
        """Return the files that came back of a probe, by stage."""
        paths = {stage: self.path / f"{name}-{asked.number}.html" for stage, name in STORED.items()}
        return {stage: path for stage, path in paths.items() if path.is_file()}

    def returned(self) -> list[Returned]:
        """Read everything that came back, and pairs of other texts.

        Raises:
            InputError: something that came back is of no use; it says which, why, and what to do.
        """
        found = []
        for asked in self.session.probes:
            probe = self.probe(asked)
            back = {
                stage: recognise(probe, self._text(path), path.name, visual=self.session.visual)
                for stage, path in self.back(asked).items()
            }
            if back:
                found.append(Returned(probe.text, back))
        return found + [Returned(sent, {"save": stored}) for sent, stored in self.pairs().values()]

    def pairs(self) -> dict[int, tuple[str, str]]:
        """Return the texts of pairs by their numbers: a piece, and what the editor made of it."""
        numbers = sorted(int(each.name.split("-")[1]) for each in self.path.glob("pair-[0-9]*-sent.html"))
        files = {each: (self.pair_file(each, "sent"), self.pair_file(each, "back")) for each in numbers}
        return {each: (self._text(sent), self._text(back)) for each, (sent, back) in files.items() if back.is_file()}

    def pair_file(self, number: int, side: Literal["sent", "back"]) -> Path:
        """Return where a text of a pair stands."""
        return self.path / f"pair-{number}-{side}.html"

    @cached_property
    def answered(self) -> tuple[Asked, ...]:
        """The probes that something came back of."""
        return tuple(each for each in self.session.probes if self.back(each))

    @cached_property
    def questions(self) -> dict[str, str]:
        """What each cell that was answered asks about, by its markup."""
        found: dict[str, str] = {}
        for asked in self.answered:
            there = cut(self._text(next(iter(self.back(asked).values()))))
            found.update(
                (each.markup, each.asks) for number, each in enumerate(self.probe(asked).questions) if number in there
            )
        return found

    @property
    def waiting(self) -> Asked | None:
        """The last probe, if nothing came back of it and it was not refused."""
        last = self.session.probes[-1] if self.session.probes else None
        return last if last is not None and not last.refused and not self.back(last) else None

    @property
    def refused(self) -> tuple[int, ...]:
        """Sizes of the probes that were refused."""
        return (*self.session.refused, *(each.characters for each in self.session.probes if each.refused))

    def with_probe(self, probe: Probe, date: str) -> Session:
        """Return the session with one probe more."""
        asked = Asked(
            number=probe.number,
            date=date,
            token=probe.token,
            characters=len(probe.text),
            cells=tuple(each.asks for each in probe.questions),
        )
        return structs.replace(self.session, probes=(*self.session.probes, asked))

    def with_refused(self, number: int) -> Session:
        """Return the session with one of its probes refused.

        Raises:
            InputError: there is no such probe, or something came back of it.
        """
        asked = next((each for each in self.session.probes if each.number == number), None)
        if asked is None:
            raise InputError(f"there is no probe {number}; the last is {len(self.session.probes)}.")
        if back := self.back(asked):
            name = next(iter(back.values())).name
            raise InputError(f"{name} came back of probe {number}, so it was not refused. Take that file away first.")
        probes = tuple(
            structs.replace(each, refused=each.number == number or each.refused) for each in self.session.probes
        )
        return structs.replace(self.session, probes=probes)

    @staticmethod
    def _text(path: Path) -> str:
        try:
            return decode(read_file(path), str(path)).text.replace("\r\n", "\n")
        except OSError as error:
            raise InputError(f"{path}: it cannot be read: {error.strerror or error}.") from None
