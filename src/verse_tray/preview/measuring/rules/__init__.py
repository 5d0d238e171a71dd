"""What a person would notice on a page, judged from what was measured. One rule a file."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from verse_tray.preview.measuring.facts import PageFacts
from verse_tray.preview.measuring.observation import Seen
from verse_tray.preview.measuring.rules import (
    aspect,
    columns,
    contrast,
    cut_off,
    default_height,
    frame,
    no_height,
    small_text,
    sticks_out,
    tap_target,
)

RULES: tuple[Callable[[PageFacts], Iterator[Seen]], ...] = (
    sticks_out.check,
    cut_off.check,
    frame.check,
    default_height.check,
    columns.check,
    contrast.check,
    small_text.check,
    tap_target.check,
    no_height.check,
    aspect.check,
)
"""Every rule, in the order in which they look."""
