"""What two readings differ in."""

from __future__ import annotations

from msgspec import Struct


class Difference(Struct, frozen=True):
    """One difference."""

    kind: str
    """``text`` (lost), ``leaked``, ``made`` (text that a style makes), ``hidden`` (what could be brought forth),
    ``look``, ``box``, ``layout``, ``meaning``, ``link``, ``media``, ``moving`` (hover, animation) or ``site``."""
    what: str
    """What of it."""
    key: int
    """Key of the text or element that it is about."""
    size: int
    """How many characters, or how many things, it is about."""
    was: str
    now: str
    seen: bool
    """Whether a person would see it in a picture of the page."""


class Comparison(Struct):
    """What comes of comparing two readings."""

    alike: int = 100
    """How much alike they are, 0 to 100; 100 when there is no difference at all."""
    share: float = 1.0
    """The same, from 0 to 1."""
    kept: int = 0
    """Characters of text still there, white space left out; those that can be brought forth are counted."""
    of: int = 0
    """How many there were."""
    leaked: int = 0
    """Characters shown now that nobody was to see."""
    differences: list[Difference] = []
    bounded: bool = False
    """Whether styles were left out, as matching them would have taken too long."""

    def add(self, difference: Difference) -> None:
        """Add a difference."""
        self.differences.append(difference)

    @property
    def harmed(self) -> bool:
        """Whether a person would see a difference, or misses something that moves."""
        return any(each.seen or each.kind in ("moving", "link") for each in self.differences)


def distance(one: tuple[float, ...], other: tuple[float, ...]) -> float:
    """Return the distance of two colours in sRGB, 0 to 442."""
    return float(sum((a - b) ** 2 for a, b in zip(one[:3], other[:3], strict=True)) ** 0.5 * 255)


def nearness(one: tuple[float, ...], other: tuple[float, ...], far: float = 200.0) -> float:
    """Return how near two colours are, 0 to 1; a small difference of hue counts little."""
    return 1 - min(1.0, distance(one, other) / far)
