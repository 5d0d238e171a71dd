"""How far a learned profile is to be trusted, as a number that was held against many editors."""

from __future__ import annotations

from verse_tray.learn.learned import Learned


def trust(learned: Learned) -> int:
    """Return how many of 100 pieces it is expected to predict right."""
    return 0
