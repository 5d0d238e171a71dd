"""The steps of every stage. These tables are their order; docs/architecture.md shows the same.

A step is the function ``run`` of the module that has its name. It is loaded, and run, only where a profile says
something in one of its keys.
"""

from __future__ import annotations

from functools import lru_cache
from importlib import import_module
from typing import NamedTuple

from verse_tray.editors.filters import Filter
from verse_tray.journeys.state import Action


class Step(NamedTuple):
    """One step of a stage."""

    name: str
    """Its name, also the front of the rules that it reports."""
    keys: tuple[str, ...]
    """Fields of the stage's record that it follows; empty for one that follows what the author types."""


FILTER: tuple[Step, ...] = (
    Step("comments", ("comments",)),
    Step("scripts", ("scripts",)),
    Step("style-elements", ("style_elements",)),
    Step("frames", ("frame_hosts", "frame_sandbox", "frame_size")),
    Step("renames", ("rename_elements",)),
    Step(
        "elements",
        (
            "elements",
            "remove_elements",
            "replace_with_children_elements",
            "escape_elements",
            "empty_elements",
            "other_elements",
        ),
    ),
    Step("attributes", ("attributes", "remove_attributes", "data_attributes", "event_handlers", "elements")),
    Step("classes", ("classes", "class_prefix")),
    Step("identifiers", ("id_prefix",)),
    Step("style-prefix", ("style_prefix",)),
    Step("addresses", ("addresses",)),
    Step("styles", ("styles",)),
    Step("characters", ("beyond16_bits",)),
)
"""What any stage may do."""
PANE: tuple[Step, ...] = (Step("pane", ("pane", "lines")),)
"""What the pane does with a paste, before the filter."""
OPENING: tuple[Step, ...] = (
    Step("paragraphs", ("paragraphs",)),
    Step("nesting", ("nesting",)),
    Step("neighbours", ("merge_elements",)),
    Step("white-space", ("white_space",)),
    Step("signs", ("non_breaking_spaces", "quotes")),
    Step("trailing-breaks", ("trailing_breaks",)),
    Step("empties", ("remove_empty_elements",)),
    Step("typing", ()),
)
"""What the visual pane does when a piece is opened, before the filter."""
FINISHING: tuple[Step, ...] = (
    Step("fill", ("fill",)),
    Step("players", ("players",)),
    Step("address-links", ("address_links",)),
    Step("typography", ("typography", "typography_in_code")),
    Step("links", ("link_rel", "link_target", "own_hosts")),
)
"""What the page does to a piece when it is built, behind the filter."""
STEPS: dict[str, tuple[Step, ...]] = {
    "paste": (*PANE, *FILTER),
    "save": FILTER,
    "reopen": (*OPENING, *FILTER),
    "publish": (*FILTER, *FINISHING),
}
"""The steps of each stage."""


def actions_of(stage: str, record: Filter, *, typed: bool) -> list[Action]:
    """Return what a stage does by its record, in order; ``typed`` says whether the author types something."""
    nothing = type(record)()
    return [
        action(step.name)
        for step in STEPS[stage]
        if (typed if not step.keys else any(getattr(record, key) != getattr(nothing, key) for key in step.keys))
    ]


@lru_cache
def action(name: str) -> Action:
    """Return the function of a step."""
    module = import_module(f"{__name__}.{name.replace('-', '_')}")
    run: Action = module.run
    return run
