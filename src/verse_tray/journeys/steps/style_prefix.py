"""A selector in front of every selector in style elements."""

from __future__ import annotations

from collections.abc import Iterator

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import State
from verse_tray.journeys.steps.step import Step
from verse_tray.journeys.steps.style_elements import rewrite_sheets
from verse_tray.style.selectors import under_prefix


def run(state: State) -> None:
    """Put the prefix in front of the selectors that do not begin with it."""
    prefix = state.record.style_prefix
    if prefix:
        message = (
            f"The selectors of this style element get {prefix} in front: its rules reach what stands inside that, and "
            "nothing else on the page."
        )
        rewrite_sheets(state, lambda css: under_prefix(css, prefix), "style-prefix/selectors", message)


def _sentences(record: Filter) -> Iterator[tuple[str, str]]:
    if record.style_prefix:
        yield "styles", f"Selectors in style elements get {record.style_prefix} in front."


STEP = Step(
    "style-prefix",
    run,
    keys=("style_prefix",),
    told=_sentences,
    guide=(
        (
            "`stylePrefix`",
            "selector put in front of every selector in style elements",
            "none",
        ),
    ),
)
