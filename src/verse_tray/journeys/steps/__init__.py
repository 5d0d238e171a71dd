"""The steps of the ``save`` stage. This table is their order; docs/architecture.md shows the same."""

from __future__ import annotations

from verse_tray.journeys.state import Step
from verse_tray.journeys.steps import addresses, attributes, comments, elements, frames, scripts, style_elements, styles

SAVE_STEPS: tuple[tuple[str, Step], ...] = (
    ("comments", comments.run),
    ("scripts", scripts.run),
    ("style-elements", style_elements.run),
    ("frames", frames.run),
    ("elements", elements.run),
    ("attributes", attributes.run),
    ("addresses", addresses.run),
    ("styles", styles.run),
)
"""Name and function of each step, in order."""
