"""Comments and other markup that is neither element nor text."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.model.findings import Severity

_NAMES = {"comment": "A comment", "instruction": "A processing instruction", "doctype": "A doctype"}


def run(state: State) -> None:
    """Drop comments, unless the profile keeps them."""
    if state.record.comments:
        return
    edits = state.edits
    for comment in state.comments:
        message = f"{_NAMES[comment.kind]} goes: this editor keeps none. Readers see no difference."
        edits.drop(comment, edits.change("comments/drop", message, Severity.NOTE, comment))


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if not record.comments:
        yield "comments", "They go."


STEP = Step(
    "comments",
    run,
    keys=("comments",),
    told=_sentences,
    guide=(
        (
            "`comments`",
            "whether comments are kept",
            "`true`",
        ),
    ),
    sample="<!-- a note -->\n",
)
