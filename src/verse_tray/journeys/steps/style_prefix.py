"""A selector in front of every selector in style elements."""

from __future__ import annotations

from verse_tray.journeys.state import State
from verse_tray.journeys.steps.style_elements import css, rewrite_css
from verse_tray.model.findings import Severity
from verse_tray.style.selectors import under_prefix


def run(state: State) -> None:
    """Put the prefix in front of the selectors that do not begin with it."""
    prefix = state.record.style_prefix
    if not prefix:
        return
    for element in state.elements:
        if element.name != "style" or element.fate:
            continue
        before = css(element)
        after = under_prefix(before, prefix)
        if after != before:
            message = (
                f"The selectors of this style element get {prefix} in front: its rules reach what stands inside that, "
                "and nothing else on the page."
            )
            rewrite_css(state, element, after, "style-prefix/selectors", message, Severity.NOTE)
