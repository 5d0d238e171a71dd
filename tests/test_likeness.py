"""How alike two pictures of a piece are, held against its formulas written out."""

from __future__ import annotations

from io import BytesIO

import numpy as np
import pytest
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray
from PIL import Image

from verse_tray.preview.measuring.facts import ElementFacts, PageFacts
from verse_tray.preview.measuring.likeness import Sight, likeness

SHAPES = np.random.default_rng(7).integers(0, 256, (2, 34, 26, 3), np.uint8)


@pytest.mark.parametrize(
    "rows", [(0, 34), (9, 16), (33, 34), (0, 1), (12, 12)], ids=lambda rows: f"rows {rows[0]} to {rows[1]} differ"
)
def test_pictures_are_compared_as_the_formulas_say(rows: tuple[int, int]) -> None:
    one = SHAPES[0].copy()
    one[:6] = 255  # no ink
    two = one.copy()
    two[slice(*rows), 5:19] = SHAPES[1, slice(*rows), 5:19]
    found = likeness(_sight(one, (20, 40)), _sight(two, (20, 63)))
    assert found.score == pytest.approx(_by_the_formulas(one / 1.0, two / 1.0), abs=1e-5)
    assert found.elements == {1: pytest.approx(found.score)}
    assert (found.score == 1) == (rows[1] - rows[0] <= 1 and rows[0] < 30)  # none, and one that reaches no ink


def test_what_stands_outside_the_window_counts_nothing() -> None:
    one, other = _sight(SHAPES[0], (0, 40)), _sight(SHAPES[1], (0, 40))
    outside = _picture(2, -41, 43)
    found = likeness(*(each._replace(facts=_page(outside, *each.facts.elements)) for each in (one, other)))
    assert found == likeness(one, other)
    assert found.score < 1


def test_a_piece_that_stands_there_twice_is_seen_whole() -> None:
    assert _page(_picture(1, 30, 80), _picture(1, 8, 20.5)).extent == (8, 20.5, 56, 114)
    assert _page().extent == (0, 0, 0, 0)


def _picture(number: int, x: float, y: float) -> ElementFacts:
    return ElementFacts(number, "img", x, y, 26, 34, x, x + 26, "", True, False, 0, "inline", 16, "serif", False, False,
                        False)  # fmt: skip


def _page(*elements: ElementFacts) -> PageFacts:
    return PageFacts(800, 800, (0, 0, 800, 900), elements, (), ())


def _sight(pixels: NDArray[np.uint8], corner: tuple[int, int]) -> Sight:
    """Return a page with one picture, three pixels from the corner of what was taken of it."""
    Image.fromarray(np.pad(pixels, ((3, 3), (3, 3), (0, 0)), constant_values=255)).save(made := BytesIO(), "PNG")
    return Sight(_page(_picture(1, corner[0] + 3, corner[1] + 3)), made.getvalue(), corner, {})


def _by_the_formulas(one: NDArray[np.float64], two: NDArray[np.float64]) -> float:
    ink = np.minimum(np.linalg.norm(one - 255, axis=2) / 60, 1)
    greys = _windows(one.mean(axis=2), 7), _windows(two.mean(axis=2), 7)
    first, second = (grey.mean(axis=2) for grey in greys)
    common = (greys[0] * greys[1]).mean(axis=2) - first * second
    spread = greys[0].var(axis=2) + greys[1].var(axis=2)
    small, smaller = 2.55**2, 7.65**2
    structure = (
        (2 * first * second + small) * (2 * common + smaller) / ((first**2 + second**2 + small) * (spread + smaller))
    )
    blurred = np.stack([_windows((one - two)[:, :, colour], 9).mean(axis=2) for colour in range(3)], axis=2)
    colour = 1 - np.minimum(np.linalg.norm(blurred, axis=2) / 160, 1)
    height, width = ink.shape
    nearest = ink.reshape(height // 2, 2, width // 2, 2).sum(axis=(1, 3))  # every second row and column has a window
    return float(((0.45 * structure + 0.55 * colour)[::2, ::2] * nearest).sum() / ink.sum())


def _windows(plane: NDArray[np.float64], size: int) -> NDArray[np.float64]:
    """Return the numbers in the window around each pixel; edges are mirrored."""
    return sliding_window_view(np.pad(plane, size // 2, "symmetric"), (size, size)).reshape(*plane.shape, -1)
