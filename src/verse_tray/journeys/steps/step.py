"""What a step of a stage says of itself."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from msgspec import Struct

from verse_tray.journeys.state import State


class Step(Struct, frozen=True):
    """One step of a stage."""

    name: str
    """Its name, also the front of the rules that it reports."""
    run: Callable[[State], None]
    """What it does."""
    keys: tuple[str, ...] = ()
    """Fields of the stage's record that it follows; empty for one that follows what the author types."""
    told: Callable[[Any], Iterator[tuple[str, str]]] | None = None
    """Yields what ``editors show`` says of a record: what a sentence is about, and the sentence."""
    guide: tuple[tuple[str, str, str], ...] = ()
    """Rows of the guide to profiles: keys, what they mean, and what holds when they are left out."""
    sample: str = ""
    """Markup that gives it something to do: the table of the stand-ins is found out with all of them."""
