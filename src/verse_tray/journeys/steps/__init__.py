"""The steps of every stage. These tables are their order; docs/architecture.md shows the same."""

from __future__ import annotations

from verse_tray.journeys.state import Step
from verse_tray.journeys.steps import (
    address_links,
    addresses,
    attributes,
    characters,
    classes,
    comments,
    elements,
    empties,
    fill,
    frames,
    identifiers,
    links,
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

FILTER: tuple[tuple[str, Step], ...] = (
    ("comments", comments.run),
    ("scripts", scripts.run),
    ("style-elements", style_elements.run),
    ("frames", frames.run),
    ("renames", renames.run),
    ("elements", elements.run),
    ("attributes", attributes.run),
    ("classes", classes.run),
    ("identifiers", identifiers.run),
    ("style-prefix", style_prefix.run),
    ("addresses", addresses.run),
    ("styles", styles.run),
    ("characters", characters.run),
)
"""Name and function of each step that any stage may have, in order."""
PANE: tuple[tuple[str, Step], ...] = (("pane", pane.run),)
"""What the pane does with a paste, before the filter."""
OPENING: tuple[tuple[str, Step], ...] = (
    ("paragraphs", paragraphs.run),
    ("nesting", nesting.run),
    ("neighbours", neighbours.run),
    ("white-space", white_space.run),
    ("signs", signs.run),
    ("trailing-breaks", trailing_breaks.run),
    ("empties", empties.run),
    ("typing", typing.run),
)
"""What the visual pane does when a piece is opened, before the filter."""
FINISHING: tuple[tuple[str, Step], ...] = (
    ("fill", fill.run),
    ("players", players.run),
    ("address-links", address_links.run),
    ("typography", typography.run),
    ("links", links.run),
)
"""What the page does to a piece when it is built, behind the filter."""
STEPS: dict[str, tuple[tuple[str, Step], ...]] = {
    "paste": (*PANE, *FILTER),
    "save": FILTER,
    "reopen": (*OPENING, *FILTER),
    "publish": (*FILTER, *FINISHING),
}
"""The steps of each stage."""
