"""From which difference on a person sees it. One table, shown in the documentation and held against pictures."""

from __future__ import annotations

from msgspec import Struct


class Threshold(Struct, frozen=True):
    """A difference and the least of it that is seen."""

    most: float
    """The greatest difference that nobody sees."""
    meaning: str
    """What is measured, for the documentation."""


THRESHOLDS = {
    "colour": Threshold(48, "colour of text: distance in sRGB, of 442"),
    "ground": Threshold(10, "ground behind text, or of a box: distance in sRGB, of 442"),
    "size": Threshold(0.06, "size of letters: share of the larger"),
    "spacing": Threshold(0.5, "space between letters: pixels"),
    "leading": Threshold(0.4, "height of lines: share of the size of letters"),
    "border": Threshold(0.5, "width of a border: pixels"),
    "radius": Threshold(3, "roundness of corners: pixels"),
    "padding": Threshold(5, "space within a box: pixels"),
    "gap": Threshold(40, "space between neighbours: pixels"),
    "extent": Threshold(0.08, "width or height of a picture, or of an empty box: share of the larger"),
}
"""By the name of what is measured."""
