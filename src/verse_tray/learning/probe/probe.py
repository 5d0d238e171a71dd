"""A probe: a text of cells, each behind an anchor, that is pasted into an editor and copied back."""

from __future__ import annotations

import re
from collections.abc import Sequence
from hashlib import sha256

from msgspec import Struct

from verse_tray.learning.probe.questions import Question
from verse_tray.model.patterns import lazy

ANCHOR = lazy(r"q(?<!\wq)(\d{3})z\b")  # begins with a letter, which is found sooner than a border
"""What stands in front of each cell, with its number; the last one ends the text."""
END = "q999z"
MOST_CELLS = 998
_HEAD = "Test text {token} of Verse Tray: delete it once you have copied back what the editor made of it. "
_TOKEN = lazy(r"Test\s+text\s+(vt[a-z0-9]+-[0-9]+-[0-9a-f]{6})\s+of\s+Verse\s+Tray")
VERSION = "vt1"
"""Version of the form of probes; what an older one brought back is not read by the rules of a newer one."""


class Probe(Struct, frozen=True):
    """What is pasted."""

    number: int
    """1 for the first."""
    text: str
    """The text."""
    questions: tuple[Question, ...]
    """Its cells in order."""

    @property
    def token(self) -> str:
        """The name that stands in its first line: version, number, and a hash of what it asks."""
        found = token_in(self.text)
        assert found is not None
        return found


def compose(number: int, questions: Sequence[Question]) -> Probe:
    """Write a probe: late cells last, a blank between all, no line ends."""
    ordered = sorted(questions, key=lambda each: each.late)
    body = "".join(f"q{place:03}z {each.markup} " for place, each in enumerate(ordered)) + END
    token = f"{VERSION}-{number}-{sha256(body.encode()).hexdigest()[:6]}"
    return Probe(number, _HEAD.format(token=token) + body, tuple(ordered))


def size_of(question: Question) -> int:
    """Return how many characters a cell takes."""
    return len(question.markup) + 7


FRAME = len(_HEAD.format(token=f"{VERSION}-1-000000")) + len(END)
"""Characters that a probe takes without any cell."""


def token_in(text: str) -> str | None:
    """Return the name of the probe that a text comes of, as far as its first line is there."""
    found = _TOKEN.search(re.sub(r"<[^>]*>|&nbsp;|\xa0", " ", text[:4000]))
    return found[1] if found else None


def cut(text: str) -> dict[int, str]:
    """Return what stands behind each anchor of a text, as it is written; what stands before the first is -1."""
    parts = ANCHOR.split(text)
    return {-1: parts[0], **{int(number): part for number, part in zip(parts[1::2], parts[2::2], strict=True)}}
