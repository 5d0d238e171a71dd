"""Editors of the tests' own, and what is told of a journey through one."""

from __future__ import annotations

from typing import Any

from verse_tray.editors.load import Editor, read_profile
from verse_tray.journeys.journey import Journey
from verse_tray.model.findings import Change


def editor(save: dict[str, Any], **more: Any) -> Editor:
    """Make an editor from the tables of a profile."""
    data = {"title": "t", "summary": "s", "save": save, **more}
    return Editor("test", read_profile(data, "test"))


def told(made: Journey) -> list[str]:
    """Return the changes as ``rule line:column what stands there``."""
    source = made.piece.source

    def row(change: Change) -> str:
        if change.span is None:
            return f"{change.rule} - -"
        line, column = source.place(change.span.start)
        return f"{change.rule} {line}:{column} {source.slice(change.span)}"

    return [row(change) for change in made.changes]
