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

from verse_tray.preview.measuring.facts import ElementFacts, PageFacts

Pixels = NDArray[np.uint8]
"""3 × height × width: a colour after the other, as they are added up much sooner so."""
Numbers = NDArray[np.integer]
"""As many, with room for sums."""
Plane = NDArray[np.float32]
"""A number for each pixel: height × width, or several of them."""

_REPLACED = frozenset(
    "img iframe video audio canvas svg input button select textarea hr progress meter object embed".split()
)
_MOST_UNITS = 800
_LONGEST = 700  # pixels of a side on which two pictures are compared; larger ones are made smaller
_SEEN = 60.0  # distance of two colours, of 441, from which on ink counts fully
_SHAPES, _COLOURS = 7, 9  # sides of the windows in which structures and colours are compared
_REACH = _COLOURS // 2  # of the larger ones, to each side
_STEP = 2  # rows and columns from a window to the next, which share most of what they hold; sums are written for two
_LIGHTEST = 3 * 255  # of the sums of a pixel's colours


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
    """A picture of the part of it that shows the piece, PNG."""
    corner: tuple[int, int]
    """Where on the page that begins, in CSS pixels."""
    runs: Mapping[tuple[int, int], tuple[int, ...]]
    """Keys of the texts of each run, see :func:`verse_tray.journeys.highlights.text_runs`."""


class _Picture(NamedTuple):
    """The part of a page that shows the piece."""

    pixels: Pixels
    left: int
    """Column of the page at which it begins."""
    top: int
    """Row of the page at which it begins."""


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
    one = _Picture(_pixels(before.picture), *before.corner)
    two = _Picture(one.pixels if after.picture == before.picture else _pixels(after.picture), *after.corner)
    units = [unit for unit, _ in _units(before)][:_MOST_UNITS]
    now = {identity: unit for unit, keys in _units(after) for identity in keys}
    inner = _inner(units)
    totals: dict[int, tuple[float, float]] = {}
    ink = kept = 0.0
    for unit in units:
        crop = _crop(one, unit)
        if crop is None:
            continue
        weight = _ink(crop, _around(one, unit), _own(one, crop, unit, inner[unit.identity]))
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
            ink += _counts(_ink(crop, _around(two, unit), _own(two, crop, unit, ())))  # nobody wrote it
    return Likeness(min(1.0, kept / ink) if ink else 1.0, {number: got / had for number, (had, got) in totals.items()})


def unchanged(page: PageFacts) -> Likeness:
    """Return how alike a page looks that is the same with the piece as published: of that nothing is to be seen."""
    own = (each.number for each in page.elements if _has_own(each) and each.shown)
    return Likeness(1.0, dict.fromkeys((*own, *(text.number for text in page.texts)), 1.0))


def _units(sight: Sight) -> Iterator[tuple[_Unit, list[tuple[str, int]]]]:
    """Yield what shows something of its own on a page, and every identity that it has; in front, what holds others."""
    for each in sight.facts.elements:
        if _has_own(each) and each.shown and each.width >= 1 and each.height >= 1:
            identity = ("element", each.number)
            yield _Unit(identity, each.number, each.x, each.y, each.width, each.height, None), [identity]
    for text in sight.facts.texts:
        keys = [("text", key) for key in sight.runs.get((text.number, text.run), ())]
        if keys:
            letters = (text.size, text.family, text.bold, text.slanted)
            yield _Unit(keys[0], text.number, text.x, text.y, text.width, text.height, letters), keys


def _has_own(element: ElementFacts) -> bool:
    return element.painted or element.bordered or element.name in _REPLACED


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
        colours = picture if picture.mode == "RGB" else picture.convert("RGB")
        return np.stack([np.asarray(colour) for colour in colours.split()])


def _sides(page: _Picture, unit: _Unit, around: int = 0) -> tuple[int, int, int, int]:
    """Return the first column and row of a unit in a picture, and those behind its last, with as many around it."""
    left, top = round(unit.x) - page.left - around, round(unit.y) - page.top - around
    right, bottom = round(unit.x + unit.width) - page.left + around, round(unit.y + unit.height) - page.top + around
    return max(0, left), max(0, top), max(0, right), max(0, bottom)


def _crop(page: _Picture, unit: _Unit) -> Pixels | None:
    left, top, right, bottom = _sides(page, unit)
    crop = page.pixels[:, top:bottom, left:right]
    return crop if crop.size else None


def _around(page: _Picture, unit: _Unit) -> Plane:
    """Return the colour in which an element stands: the middle one of those along its edge, as far as that is seen."""
    left, top, right, bottom = _sides(page, unit, 2)
    whole = page.pixels
    edges = (whole[:, top : top + 1, left:right], whole[:, bottom - 1 : bottom, left:right],
             whole[:, top:bottom, left : left + 1], whole[:, top:bottom, right - 1 : right])  # fmt: skip
    found = np.concatenate([edge.reshape(3, -1) for edge in edges], axis=1)
    if not found.size:
        return np.full(3, 255, np.float32)
    found.sort(axis=1)
    middle = found.shape[1] // 2
    colour: Plane = (found[:, middle].astype(np.float32) + found[:, ~middle]) / 2
    return colour


def _inner(units: list[_Unit]) -> dict[tuple[str, int], list[_Unit]]:
    """Return what lies within each unit, by its identity: what comes behind it only."""
    boxes = np.array([(unit.x, unit.y, unit.x + unit.width, unit.y + unit.height) for unit in units]).reshape(-1, 4)
    found: dict[tuple[str, int], list[_Unit]] = {}
    for at, unit in enumerate(units):
        rest = boxes[at + 1 :]
        within = (rest[:, :2] >= boxes[at, :2] - 0.5).all(axis=1) & (rest[:, 2:] <= boxes[at, 2:] + 0.5).all(axis=1)
        found[unit.identity] = [units[at + 1 + int(index)] for index in np.flatnonzero(within)]
    return found


def _own(page: _Picture, crop: Pixels, unit: _Unit, inner: Iterable[_Unit]) -> NDArray[np.bool_]:
    """Return which pixels of an element's picture are its own, and not those of an element in it."""
    mask = np.ones(crop.shape[1:], bool)
    left, top, _, _ = _sides(page, unit)
    for each in inner:
        start, first, end, behind = _sides(page, each)
        mask[max(0, first - top) : max(0, behind - top), max(0, start - left) : max(0, end - left)] = False
    return mask


def _ink(crop: Pixels, around: Plane, mask: NDArray[np.bool_]) -> Plane:
    """Return how much each pixel stands out from what the element stands in, from 0 to 1."""
    ink = _length(crop - around[:, None, None])
    ink /= _SEEN
    np.minimum(ink, 1, out=ink)
    ink *= mask
    return ink


def _length(apart: Plane) -> Plane:
    """Return how far apart two colours are at each pixel, up to 441, and spoil what it is made of."""
    apart *= apart
    squares = apart[0]
    squares += apart[1]
    squares += apart[2]
    distance: Plane = np.sqrt(squares, out=squares)
    return distance


def _counts(weight: Plane) -> float:
    """Return how much something counts: with its ink, but a line of text not a hundredth of a picture."""
    ink = float(weight.sum())
    return ink**0.5 if ink >= 1 else 0.0


def _alike(one: Pixels, two: Pixels, weight: Plane, *, same_letters: bool) -> float:
    """Return how alike two pictures of an element are, from 0 to 1, where the first one has ink."""
    height, width = one.shape[1:]
    rows, columns = min(height, two.shape[1]), min(width, two.shape[2])
    shared = float(weight[:rows, :columns].sum() / weight.sum())
    both = one[:, :rows, :columns], two[:, :rows, :columns]
    laid = _compared(*both, weight[:rows, :columns], same_letters) * shared
    if (rows, columns) == (height, width) == two.shape[1:]:
        return laid
    scaled = [Image.fromarray(colour).resize((width, height), Image.Resampling.BILINEAR) for colour in two]
    return max(laid, _compared(one, np.stack([np.asarray(colour) for colour in scaled]), weight, same_letters))


def _compared(one: Pixels, two: Pixels, weight: Plane, same_letters: bool) -> float:
    if np.array_equal(one, two):
        return 1.0
    largest = max(one.shape[1:])
    if largest > _LONGEST:  # what is seen at a glance: every n-th pixel is enough
        step = -(-largest // _LONGEST)
        one, two, weight = one[:, ::step, ::step], two[:, ::step, ::step], weight[::step, ::step]
    total = float(weight.sum())
    if total <= 0:
        return 0.0
    inked, differs = weight > 0, (one != two).any(axis=0)
    rows, columns = (_reached(inked, differs, across) for across in (1, 0))
    weight = _by_windows(weight[rows, columns])
    alike = total - float(weight.sum())  # what no difference reaches
    if not weight.size:
        return 1.0
    first, second = (_with_margin(each, rows, columns) for each in (one, two))
    structure = (alike + float((_structure(first, second) * weight).sum())) / total
    if same_letters:
        structure = max(structure, 0.85)
    apart = _length(_sums(first - second, _COLOURS).astype(np.float32))  # as what is blurred of each
    colour = (alike + float(((1 - np.minimum(apart / (160 * _COLOURS**2), 1)) * weight).sum())) / total
    return 0.45 * max(0.0, structure) + 0.55 * colour


def _reached(inked: NDArray[np.bool_], differs: NDArray[np.bool_], across: int) -> slice:
    """Return which of the rows, or of the columns, a difference can reach where there is ink."""
    ink, apart = (np.flatnonzero(pixels.any(axis=across)) for pixels in (inked, differs))
    if not apart.size:
        return slice(0, 0)
    first, last = max(int(ink[0]), int(apart[0]) - _REACH), min(int(ink[-1]), int(apart[-1]) + _REACH)
    first -= first % _STEP
    return slice(first, max(first, last + _STEP - (last - first) % _STEP))  # whole steps


def _by_windows(weight: Plane) -> Plane:
    """Return how much the pixels count together that are nearest to each window."""
    height, width = weight.shape
    even = np.zeros((height + height % _STEP, width + width % _STEP), np.float32)
    even[:height, :width] = weight
    rows = even[::_STEP] + even[1::_STEP]
    together: Plane = rows[:, ::_STEP] + rows[:, 1::_STEP]
    return together


def _with_margin(picture: Pixels, rows: slice, columns: slice) -> Numbers:
    """Return a part of a picture with what the windows reach around it; the edges of the picture are mirrored."""
    for axis, part in ((1, rows), (2, columns)):
        length = picture.shape[axis]
        at = np.arange(part.start - _REACH, part.stop + _REACH) % (2 * length)
        picture = picture.take(np.minimum(at, 2 * length - 1 - at), axis)
    return picture.astype(np.int16)


def _structure(one: Numbers, two: Numbers) -> Plane:
    """Return the structural similarity in each window (Wang, Bovik, Sheikh and Simoncelli 2004)."""
    margin = _REACH - _SHAPES // 2
    inner = (each[:, margin:-margin, margin:-margin] for each in (one, two))
    greys = np.stack([each[0] + each[1] + each[2] for each in inner]).view(np.uint16)
    lights = greys.astype(np.int32)
    products = np.stack((lights[0] ** 2 + lights[1] ** 2, lights[0] * lights[1]))
    (mean_one, mean_two), (squares, common) = (
        _sums(each, _SHAPES).astype(np.float32) / _SHAPES**2 for each in (greys, products)
    )
    means, of_means = mean_one * mean_two, mean_one**2 + mean_two**2
    small, smaller = (0.01 * _LIGHTEST) ** 2, (0.03 * _LIGHTEST) ** 2
    alike: Plane = (2 * means + small) * (2 * (common - means) + smaller)
    alike /= (of_means + small) * (squares - of_means + smaller)
    return alike


def _sums(numbers: Numbers, size: int) -> Numbers:
    """Return the sum of each window of so many rows and columns, an odd number; every second row and column has one.

    The filtering packages take longer to load than all pictures of a page to compare.
    """
    for _ in range(2):
        count = (numbers.shape[-2] - size) // _STEP + 1
        total = numbers[..., : _STEP * count : _STEP, :].copy()
        end = _STEP * (count - 1) + size
        pairs = numbers[..., 1:end:_STEP, :] + numbers[..., 2:end:_STEP, :]
        for start in range(size // _STEP):
            total += pairs[..., start : start + count, :]
        numbers = total.swapaxes(-1, -2)
    return numbers
