"""Visual survival: how much of what readers were meant to see still looks the same, element by element.

Elements are found again by their identity, not by their looks. Each one's own picture is cut out of both pages and
compared where it has ink: structure, colours, size and place. What is missing counts nothing; all are weighed by the
root of their ink. Comparing the two pages as wholes would not do: with everything lost, most of a page is still empty
ground.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from io import BytesIO
from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from PIL import Image

from verse_tray.preview.measuring.facts import PageFacts

Pixels = NDArray[np.float32]
"""3 × height × width, each part from 0 to 255: a colour after the other, as they are added up much sooner so."""

_REPLACED = frozenset(
    "img iframe video audio canvas svg input button select textarea hr progress meter object embed".split()
)
_MOST_UNITS = 800
_LONGEST = 700  # pixels of a side on which two pictures are compared; larger ones are made smaller
_NOTHING = np.zeros((3, 1, 1), np.float32)
_SEEN = 60.0  # distance of two colours, of 441, from which on ink counts fully


class Likeness(Struct, frozen=True):
    """How alike two pages look."""

    score: float
    """From 0, nothing of it is there, to 1, the same."""
    elements: dict[int, float]
    """The same for each element that shows something of its own, by its number."""


class Sight(NamedTuple):
    """A page as it is seen."""

    facts: PageFacts
    """What was measured of it."""
    picture: bytes
    """Its picture, PNG."""
    runs: Mapping[tuple[int, int], tuple[int, ...]]
    """Keys of the texts of each run, see :func:`verse_tray.journeys.highlights.text_runs`."""


class _Unit(NamedTuple):
    """Something that shows something of its own: a run of text, a picture, a ground or a border."""

    identity: tuple[str, int]
    """Whether it is a text or an element, and its key."""
    number: int
    """Number of the element that it is, or that it stands in."""
    x: float
    y: float
    width: float
    height: float
    letters: tuple[float, str, bool, bool] | None
    """Size, family and cut of a text's letters."""


def likeness(before: Sight, after: Sight) -> Likeness:
    """Compare a page with the piece as written and the one with it as published, in windows of one width."""
    one, two = _pixels(before.picture), _pixels(after.picture)
    units = [unit for unit, _ in _units(before)][:_MOST_UNITS]
    now = {identity: unit for unit, keys in _units(after) for identity in keys}
    inner = _inner(units)
    totals: dict[int, tuple[float, float]] = {}
    ink = kept = 0.0
    for unit in units:
        crop = _crop(one, unit)
        if crop is None:
            continue
        weight = _ink(crop, _around(one, unit), _own(crop, unit, inner[unit.identity]))
        amount = _counts(weight)
        if not amount:
            continue
        found = now.get(unit.identity)
        found_crop = None if found is None else _crop(two, found)
        score = 0.0
        if found is not None and found_crop is not None:
            same = unit.letters is not None and unit.letters == found.letters
            score = _alike(crop, found_crop, weight, same_letters=same) * _laid_out(unit, found, before, after)
        had, got = totals.get(unit.number, (0.0, 0.0))
        totals[unit.number] = had + amount, got + amount * score
        ink += amount
        kept += amount * score
    known = {unit.identity for unit in units}
    for identity, unit in now.items():
        if identity not in known and identity == unit.identity and (crop := _crop(two, unit)) is not None:
            ink += _counts(_ink(crop, _around(two, unit), _own(crop, unit, ())))  # nobody wrote it
    return Likeness(min(1.0, kept / ink) if ink else 1.0, {number: got / had for number, (had, got) in totals.items()})


def _units(sight: Sight) -> Iterator[tuple[_Unit, list[tuple[str, int]]]]:
    """Yield what shows something of its own on a page, and every identity that it has; in front, what holds others."""
    for each in sight.facts.elements:
        own = each.painted or each.bordered or each.name in _REPLACED
        if own and each.shown and each.width >= 1 and each.height >= 1:
            identity = ("element", each.number)
            yield _Unit(identity, each.number, each.x, each.y, each.width, each.height, None), [identity]
    for text in sight.facts.texts:
        keys = [("text", key) for key in sight.runs.get((text.number, text.run), ())]
        if keys:
            letters = (text.size, text.family, text.bold, text.slanted)
            yield _Unit(keys[0], text.number, text.x, text.y, text.width, text.height, letters), keys


def _laid_out(one: _Unit, other: _Unit, before: Sight, after: Sight) -> float:
    """Return how alike two units are in size and in their place across the column: from 0.6 to 1."""
    size = min(one.width, other.width) / max(one.width, other.width)
    if one.letters is None:
        size *= min(one.height, other.height) / max(one.height, other.height)
    column = before.facts.piece
    across = (one.x - column[0]) - (other.x - after.facts.piece[0])
    place = 1 - min(1.0, abs(across) / max(column[2] / 2, 1))
    return 0.6 + 0.2 * size + 0.2 * place


def _pixels(png: bytes) -> Pixels:
    with Image.open(BytesIO(png), formats=("PNG",)) as picture:
        colours = np.asarray(picture.convert("RGB")).transpose(2, 0, 1)
    return np.ascontiguousarray(colours, dtype=np.float32)


def _crop(page: Pixels, unit: _Unit) -> Pixels | None:
    left, top = max(0, round(unit.x)), max(0, round(unit.y))
    crop = page[:, top : round(unit.y + unit.height), left : round(unit.x + unit.width)]
    return crop if crop.size else None


def _around(page: Pixels, unit: _Unit) -> Pixels:
    """Return the colour in which an element stands: the middle one of those along its edge."""
    left, top = max(0, round(unit.x) - 2), max(0, round(unit.y) - 2)
    right, bottom = round(unit.x + unit.width) + 2, round(unit.y + unit.height) + 2
    edges = (page[:, top : top + 1, left:right], page[:, bottom - 1 : bottom, left:right],
             page[:, top:bottom, left : left + 1], page[:, top:bottom, right - 1 : right])  # fmt: skip
    found = np.concatenate([edge.reshape(3, -1) for edge in edges], axis=1)
    middle: Pixels = np.median(found, axis=1) if found.size else np.full(3, 255, np.float32)
    return middle.astype(np.float32)


def _inner(units: list[_Unit]) -> dict[tuple[str, int], list[_Unit]]:
    """Return what lies within each unit, by its identity: what comes behind it only."""
    boxes = np.array([(unit.x, unit.y, unit.x + unit.width, unit.y + unit.height) for unit in units]).reshape(-1, 4)
    found: dict[tuple[str, int], list[_Unit]] = {}
    for at, unit in enumerate(units):
        rest = boxes[at + 1 :]
        within = (rest[:, :2] >= boxes[at, :2] - 0.5).all(axis=1) & (rest[:, 2:] <= boxes[at, 2:] + 0.5).all(axis=1)
        found[unit.identity] = [units[at + 1 + int(index)] for index in np.flatnonzero(within)]
    return found


def _own(crop: Pixels, unit: _Unit, inner: Iterable[_Unit]) -> NDArray[np.bool_]:
    """Return which pixels of an element's picture are its own, and not those of an element in it."""
    mask = np.ones(crop.shape[1:], bool)
    left, top = max(0, round(unit.x)), max(0, round(unit.y))
    for each in inner:
        rows = slice(max(0, round(each.y) - top), max(0, round(each.y + each.height) - top))
        mask[rows, max(0, round(each.x) - left) : max(0, round(each.x + each.width) - left)] = False
    return mask


def _ink(crop: Pixels, around: Pixels, mask: NDArray[np.bool_]) -> NDArray[np.float32]:
    """Return how much each pixel stands out from what the element stands in, from 0 to 1."""
    ink: NDArray[np.float32] = np.minimum(_apart(crop, around[:, None, None]) / _SEEN, 1) * mask
    return ink


def _apart(one: Pixels, two: Pixels) -> NDArray[np.float32]:
    """Return the distance of two colours at each pixel, up to 441."""
    squares = (one - two) ** 2
    distance: NDArray[np.float32] = np.sqrt(squares[0] + squares[1] + squares[2])
    return distance


def _counts(weight: NDArray[np.float32]) -> float:
    """Return how much something counts: with its ink, but a line of text not a hundredth of a picture."""
    ink = float(weight.sum())
    return ink**0.5 if ink >= 1 else 0.0


def _alike(one: Pixels, two: Pixels, weight: NDArray[np.float32], *, same_letters: bool) -> float:
    """Return how alike two pictures of an element are, from 0 to 1, where the first one has ink."""
    height, width = one.shape[1:]
    rows, columns = min(height, two.shape[1]), min(width, two.shape[2])
    shared = float(weight[:rows, :columns].sum() / weight.sum())
    both = one[:, :rows, :columns], two[:, :rows, :columns]
    laid = _compared(*both, weight[:rows, :columns], same_letters) * shared
    if (rows, columns) == (height, width) == two.shape[1:]:
        return laid
    picture = Image.fromarray(np.ascontiguousarray(two.transpose(1, 2, 0), dtype=np.uint8))
    scaled = np.asarray(picture.resize((width, height), Image.Resampling.BILINEAR)).transpose(2, 0, 1)
    return max(laid, _compared(one, np.ascontiguousarray(scaled, dtype=np.float32), weight, same_letters))


def _compared(one: Pixels, two: Pixels, weight: NDArray[np.float32], same_letters: bool) -> float:
    if np.array_equal(one, two):  # exactly alike, whatever is lost in adding up
        return 1.0
    largest = max(one.shape[1:])
    if largest > _LONGEST:  # what is seen at a glance: every n-th pixel is enough
        step = -(-largest // _LONGEST)
        one, two, weight = one[:, ::step, ::step], two[:, ::step, ::step], weight[::step, ::step]
    total = float(weight.sum())
    if total <= 0:
        return 0.0
    structure = float((_structure(one.mean(axis=0), two.mean(axis=0)) * weight).sum() / total)
    if same_letters:
        structure = max(structure, 0.85)
    blurred = _means(one - two, 9)  # as far apart as what is blurred of each
    colour = float(((1 - np.minimum(_apart(blurred, _NOTHING) / 160, 1)) * weight).sum() / total)
    return 0.45 * max(0.0, structure) + 0.55 * colour


def _structure(one: NDArray[np.float32], two: NDArray[np.float32]) -> NDArray[np.float32]:
    """Return the structural similarity at each pixel (Wang, Bovik, Sheikh and Simoncelli 2004), in windows of 7 × 7."""
    mean_one, mean_two, of_one, of_two, of_both = _means(np.stack((one, two, one * one, two * two, one * two)), 7)
    spread_one, spread_two, common = of_one - mean_one**2, of_two - mean_two**2, of_both - mean_one * mean_two
    small, smaller = (0.01 * 255) ** 2, (0.03 * 255) ** 2
    alike = (2 * mean_one * mean_two + small) * (2 * common + smaller)
    result: NDArray[np.float32] = alike / ((mean_one**2 + mean_two**2 + small) * (spread_one + spread_two + smaller))
    return result


def _means(pictures: Pixels, size: int) -> Pixels:
    """Return the mean of the window around each pixel, whose side is an odd number; edges are mirrored.

    The filtering packages take longer to load than all pictures of a page to compare.
    """
    half = size // 2
    padded = np.pad(pictures, ((0, 0), (half, half), (half, half)), "symmetric")
    height, width = pictures.shape[1:]
    down = padded[:, :height].copy()
    for at in range(1, size):
        down += padded[:, at : at + height]
    across = down[:, :, :width].copy()
    for at in range(1, size):
        across += down[:, :, at : at + width]
    across /= size * size
    return across
