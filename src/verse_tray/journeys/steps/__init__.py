"""The steps of every stage. These tables are their order; docs/architecture.md shows the same.

Each step is a file with its function and with all that is told of it: the keys that it follows, what ``editors show``
and the guide to profiles say of them, and a sample. It runs only where a profile says something in one of its keys.
"""

from __future__ import annotations

from verse_tray.editors.filters import Filter
from verse_tray.journeys.steps import (
    address_links,
    addresses,
    attribute_values,
    attributes,
    between_tags,
    booleans,
    characters,
    classes,
    comments,
    elements,
    empties,
    fill,
    frames,
    given,
    identifiers,
    links,
    loose_text,
    needs,
    neighbours,
    nesting,
    pane,
    paragraphs,
    players,
    renames,
    scripts,
    signs,
    style_elements,
    style_prefix,
    styles,
    trailing_breaks,
    typing,
    typography,
    white_space,
)
from verse_tray.journeys.steps.step import Step

FILTER: tuple[Step, ...] = (
    comments.STEP,
    scripts.STEP,
    style_elements.STEP,
    frames.STEP,
    renames.STEP,
    elements.STEP,
    attributes.STEP,
    attribute_values.STEP,
    classes.STEP,
    identifiers.STEP,
    style_prefix.STEP,
    addresses.STEP,
    styles.STEP,
    needs.STEP,
    given.STEP,
    booleans.STEP,
    characters.STEP,
    between_tags.STEP,
    loose_text.STEP,
)
"""What any stage may do."""
PANE: tuple[Step, ...] = (pane.STEP,)
"""What the pane does with a paste, before the filter."""
OPENING: tuple[Step, ...] = (
    paragraphs.STEP,
    nesting.STEP,
    neighbours.STEP,
    white_space.STEP,
    signs.STEP,
    trailing_breaks.STEP,
    empties.STEP,
    typing.STEP,
)
"""What a visual pane does when a piece is opened, and others may do at any stage, before the filter."""
FINISHING: tuple[Step, ...] = (
    fill.STEP,
    players.STEP,
    address_links.STEP,
    typography.STEP,
    links.STEP,
)
"""What a page does to a piece when it is built, and others may do at any stage, behind the filter."""
_ANY = (*OPENING, *FILTER, *FINISHING)
STEPS: dict[str, tuple[Step, ...]] = {"paste": (*PANE, *_ANY), "save": _ANY, "reopen": _ANY, "publish": _ANY}
"""The steps of each stage."""


def steps_of(stage: str, record: Filter, *, typed: bool) -> list[Step]:
    """Return the steps of a stage that have something to do by its record, in order.

    Args:
        stage: Name of the stage.
        record: The stage's record.
        typed: Whether the author types something.
    """
    nothing = type(record)()
    return [
        step
        for step in STEPS[stage]
        if (typed if not step.keys else any(getattr(record, key) != getattr(nothing, key) for key in step.keys))
    ]
