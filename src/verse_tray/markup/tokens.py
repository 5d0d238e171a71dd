"""The tokens of markup: where each starts and ends."""

from __future__ import annotations

from enum import IntEnum
from typing import NamedTuple


class Kind(IntEnum):
    """What a token is."""

    START = 0
    END = 1
    TEXT = 2
    COMMENT = 3
    DOCTYPE = 4
    INSTRUCTION = 5
    CDATA = 6
    """Text between ``<![CDATA[`` and ``]]>`` in foreign content; the span is that of the text."""
    DROPPED = 7
    """``</>``, which the tokenizer throws away."""
    UNFINISHED = 8
    """A tag that the end of the file cut short; it is thrown away too."""


class Token(NamedTuple):
    """One token; offsets in code points, end exclusive."""

    kind: Kind
    start: int
    end: int
    name: str
    """Lower-case name of a tag; else empty."""
    raw: bool
    """For text: the contents of a raw text element, where references mean nothing."""
